#- in full
from typing import Generic, TypeVar

T_co = TypeVar("T_co", covariant=True)  #< declared "`T_co` is defined here"

class Timetable(Generic[T_co]):
    def add(self, vessel: T_co) -> None:  #! generic.variance@27-31 "`T_co` is taken here, and it is covariant: only given"  #> invariant "use a variable that is neither covariant nor contravariant"  #> split "move the method into a class of its own, which is not covariant"
        pass
