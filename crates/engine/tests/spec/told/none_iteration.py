#- in full
from typing import Optional

def count(stops: Optional[list[str]]) -> int:  #< declared "`stops` is declared as `Optional[list[str]]`"
    number = 0
    for stop in stops:  #! none.iteration@17-22 "`stops` may be None here (`list[str] | None`), and None cannot be iterated"  #> default "give a default where the None comes from"  #> check "check `stops` for None before use"
        number += len(stop)
    return number
