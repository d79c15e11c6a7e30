#= Enumerations

#. A member is of its enumeration.
from enum import Enum


class Side(Enum):
    PORT = 1
    STARBOARD = 2


def turn(side: Side) -> None: ...


turn(Side.PORT)
turn(1)  #! call.argument
Side.BOW  #! member.absent

#. `name` and `value` of a member are known.
from enum import Enum


class Side(Enum):
    PORT = 1


a: int = Side.PORT.value
b: str = Side.PORT.name
c: str = Side.PORT.value  #! value.assign

#. An enumeration is called with a value, and read by a name.
from enum import Enum


class Side(Enum):
    PORT = 1


a: Side = Side(1)
b: Side = Side["PORT"]
c: int = Side(1)  #! value.assign
Side[3]  #! index.unsupported

#. Members have no annotation.
from enum import Enum


class Side(Enum):
    PORT = 1
    BOW: int = 2  #! class.field

#. Members fit `_value_`, where that is declared.
from enum import Enum


class Gear(Enum):
    _value_: int
    LOW = 1
    HIGH = "high"  #! value.assign

#. Members are not assigned.
from enum import Enum


class Side(Enum):
    PORT = 1


Side.PORT = 2  #! member.readonly
Side.PORT

#. No class derives from an enumeration with members.
from enum import Enum


class Side(Enum):
    PORT = 1


class Base(Enum):
    def shown(self) -> str:
        return self.name


class Right(Base):
    LOW = 1


class Wrong(Side): ...  #! class.base

#. A match over all members is complete.
from enum import Enum


class Side(Enum):
    PORT = 1
    STARBOARD = 2


def right(side: Side) -> int:
    match side:
        case Side.PORT:
            return 1
        case Side.STARBOARD:
            return 2


def wrong(side: Side) -> int:  #! flow.missing-return
    match side:  #! flow.incomplete-match
        case Side.PORT:
            return 1

#. Comparing with `is` narrows to the other members.
from enum import Enum
from typing import Literal


class Side(Enum):
    PORT = 1
    STARBOARD = 2


def use(side: Side) -> None:
    if side is Side.PORT:
        a: Literal[Side.PORT] = side
    else:
        b: Literal[Side.STARBOARD] = side
        c: Literal[Side.PORT] = side  #! value.assign

#. Methods, private names, `nonmember` and descriptors are no members.
from enum import Enum, member, nonmember


class Hue(Enum):
    RED = 1
    rank = nonmember(3)
    __secret = 4

    def shown(self) -> str:
        return self.name


a: int = Hue.rank
b: Hue = Hue.rank  #! value.assign
c: Hue = Hue.RED

#. A name for the same value is another name for the member.
from enum import Enum
from typing import Literal


class Side(Enum):
    PORT = 1
    LEFT = 1
    STARBOARD = 2


a: Literal[Side.PORT] = Side.LEFT
b: Literal[Side.STARBOARD] = Side.LEFT  #! value.assign

#. `auto()` gives whole numbers, or texts in a `StrEnum`.
from enum import Enum, StrEnum, auto


class Side(Enum):
    PORT = auto()


class Port(StrEnum):
    NESS = auto()


a: int = Side.PORT.value
b: str = Port.NESS.value
c: str = Side.PORT.value  #! value.assign

#. Members of an `IntEnum` are whole numbers.
from enum import Enum, IntEnum


class Gear(IntEnum):
    LOW = 1


class Side(Enum):
    PORT = 1


Gear.LOW + 1
Side.PORT + 1  #! operator.unsupported
a: int = Gear.LOW
b: int = Side.PORT  #! value.assign

#. Members of a `Flag` are put together by `|`.
from enum import Enum, Flag


class Deck(Flag):
    CARS = 1
    BIKES = 2


class Side(Enum):
    PORT = 1
    BOW = 2


a: Deck = Deck.CARS | Deck.BIKES
Side.PORT | Side.BOW  #! operator.unsupported

#. An enumeration is iterated, counted and asked what it has.
from enum import Enum


class Side(Enum):
    PORT = 1


for side in Side:
    a: Side = side
    b: int = side  #! value.assign
len(Side)
Side.PORT in Side
len(Side.PORT)  #! class.protocol

#. The call form makes the same enumeration.
from enum import Enum

Side = Enum("Side", "PORT STARBOARD")
Gear = Enum("Gear", {"LOW": 1})

Side.PORT
Side.BOW  #! member.absent
Gear.LOW

#. Attributes that `__init__` gives are the member's own.
from enum import Enum


class Port(Enum):
    NESS = (3, "north")

    def __init__(self, berths: int, coast: str) -> None:
        self.berths = berths
        self.coast = coast


a: int = Port.NESS.berths
b: int = Port.NESS.coast  #! value.assign
