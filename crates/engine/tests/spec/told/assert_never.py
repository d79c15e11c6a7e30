#- in full
from typing import assert_never

def deck(vessel: int | str) -> int:  #< declared "`vessel` is declared as `int | str`"
    if isinstance(vessel, int):  #< narrowed "where this does not hold, `str` is left"
        return vessel
    assert_never(vessel)  #! assert.never@18-24 "`str` is left here"  #> handle "handle what is left, before"
