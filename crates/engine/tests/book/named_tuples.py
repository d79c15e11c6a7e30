#= Named tuples

#. A named tuple is made of its fields in their order.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    hours: int = 3


Leg("Ness")
Leg("Ness", 4)
Leg(port="Ness", hours=4)
Leg()  #! call.missing
Leg("Ness", "four")  #! call.argument
Leg("Ness", 4, 5)  #! call.surplus

#. Fields are read by name and by place.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    hours: int


def use(leg: Leg) -> None:
    a: str = leg.port
    b: str = leg[0]
    c: int = leg[0]  #! value.assign
    leg.nowhere  #! member.absent
    leg[2]  #! index.range

#. Fields are not assigned or deleted.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str


def use(leg: Leg) -> None:
    leg.port = "Ness"  #! member.readonly
    del leg.port  #! member.readonly
    leg[0] = "x"  #! index.unsupported
    leg._replace(port="x")

#. A named tuple is taken apart like a tuple.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    hours: int


def use(leg: Leg) -> None:
    port, hours = leg
    a: int = hours
    b: str = hours  #! value.assign
    x, y, z = leg  #! value.unpack

#. A field's name begins with no underscore.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    _hours: int  #! class.field

#. A named tuple has no base beside `NamedTuple` but `Generic`.
from typing import Generic, NamedTuple, TypeVar

T = TypeVar("T")


class Vessel: ...
class Wrong(NamedTuple, Vessel):  #! class.base
    port: str


class Right(NamedTuple, Generic[T]):
    held: T


class Below(Right[int]):
    def more(self) -> int:
        return self.held

#. A named tuple's field without a default does not follow one that has one.
from typing import NamedTuple


class Wrong(NamedTuple):
    port: str = ""
    hours: int  #! class.field


class Right(NamedTuple):
    hours: int
    port: str = ""

#. The call form makes the same named tuple.
from typing import NamedTuple

Leg = NamedTuple("Leg", [("port", str), ("hours", int)])


def use(leg: Leg) -> None:
    a: str = leg.port
    for part in leg:
        b: str | int = part
        c: str = part  #! value.assign


Leg("Ness", 3)
Leg("Ness")  #! call.missing
Leg(3, "Ness")  #! call.argument

#. `namedtuple` makes fields of any type.
from collections import namedtuple

Leg = namedtuple("Leg", "port hours")
Late = namedtuple("Late", ["port", "hours"], defaults=[3])

Leg("Ness", 3).port
Leg("Ness")  #! call.missing
Leg("Ness", 3).nowhere  #! member.absent
Late("Ness")

#. A named tuple fits the tuple of its fields.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    hours: int


def use(leg: Leg) -> None:
    a: tuple[str, int] = leg
    b: tuple[str, ...] = leg  #! value.assign
    c: tuple[int, str] = leg  #! value.assign

#. A named tuple may have methods.
from typing import NamedTuple


class Leg(NamedTuple):
    hours: int

    def double(self) -> int:
        return self.hours * 2


a: int = Leg(3).double()
b: str = Leg(3).double()  #! value.assign

#. A generic named tuple is solved by its call.
from typing import NamedTuple


class Pair[T](NamedTuple):
    one: T
    other: T


a: int = Pair(1, 2).one
b: str = Pair(1, 2).one  #! value.assign

#. Patterns match fields by place and by name.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str
    hours: int


def use(leg: Leg) -> None:
    match leg:
        case Leg(port, hours, more): ...  #! call.surplus
        case Leg(port, hours):
            a: str = port
            b: str = hours  #! value.assign
