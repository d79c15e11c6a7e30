#- in full
from typing import overload

@overload
def label(berth: int) -> int: ...  #! class.overlap@5-10 "this signature of `label` gives `int`; one below takes the same and more, and gives `str`"  #> widen-result "let the second signature say that it may give what the first gives"
@overload
def label(berth: object) -> str: ...  #< declared "this one takes the same and more"
def label(berth: object) -> int | str:
    return berth if isinstance(berth, int) else str(berth)
