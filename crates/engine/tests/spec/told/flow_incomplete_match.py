#- in full
from enum import Enum

class Sea(Enum):
    CALM = 1
    ROUGH = 2
    STORM = 3

def advice(sea: Sea) -> str:
    text = ""
    if sea is Sea.CALM:  #! flow.incomplete-match@8-11 "`Literal[Sea.STORM]` is left out here"  #> branch "add a branch for each member that is left out"  #> rest "add an `else` for the rest"
        text = "sail"
    elif sea is Sea.ROUGH:
        text = "wait"
    return text
