#- in full
from typing import overload

@overload
def fare(cars: int) -> int: ...
@overload
def fare(cars: str) -> str: ...  #! class.overloads@5-9 "the definition of `fare` does not take what this signature takes"  #> widen "let the definition take and give what the signatures say"  #> drop "take the signatures that are of no use away"
def fare(cars: int) -> int:  #< declared "the definition"
    return cars
