#- in full
from typing import TypeVar

T = TypeVar("T")  #< declared "`T` is defined here"

def last_vessel() -> list[T]:  #! generic.result@22-29 "`T` is in the result only: no parameter says what it is"  #> concrete "write the type that is meant"  #> parameter "take something that says what the variable is"  #> object "say `object` where anything may be"
    return []
