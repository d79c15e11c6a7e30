#- in full
from typing import Generic, TypeVar

DepthT = TypeVar("DepthT", bound=float)  #< declared "`DepthT` must fit `float`"

class Soundings(Generic[DepthT]):
    pass

def chart(soundings: Soundings[str]) -> None:  #! generic.bound@32-35 "`str` cannot stand for `DepthT`, which must fit `float`"  #> argument "give a type that the variable may be"  #> loosen "let the variable be more"
    pass
