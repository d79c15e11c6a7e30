#- in full
from typing import Final

def berth(number: Final[int]) -> int:  #! annotation.place@19-29 "`Final` stands around the whole type of a variable or attribute, and nowhere else"  #> leave-out "write the type alone"  #> move "say it where the variable is declared"
    return number
