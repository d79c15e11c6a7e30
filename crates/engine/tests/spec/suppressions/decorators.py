from typing import Final, overload

class Berth:
    depth: Final[int] = 3

class Deep(Berth):
    @property  # type: ignore[foreign-code]
    def depth(self) -> int:
        return 4

@overload  # leitmotiv: allow(class.overloads) the other one follows in the next release
def fare(cars: int) -> int: ...
def fare(cars: int) -> int:
    return cars
#- quiet
