"""Names: those for others, those of checkers, those that go again."""
import re
from collections import namedtuple
from enum import Enum
from typing import TYPE_CHECKING, Final, NamedTuple, NewType, TypeVar, overload

if TYPE_CHECKING:
    from os import PathLike

    Chart = str | PathLike[str]

T = TypeVar("T")
DATUM: Final = 2.5
HIGH = 4
NAMES = ["spring", "neap"]
word = re.compile("x")
_secret = 3
Table = dict[str, int]
Mark = NewType("Mark", int)
Spell = namedtuple("Spell", "low high", defaults=(None,))


class Leg(NamedTuple):
    port: str
    minutes: int = 10


class State(Enum):
    EBB = "ebb"
    FLOOD = "flood"


class _Base:
    """Nobody's, but derived from."""


class Gauge(_Base):
    reading: float


@overload
def at(hour: int) -> float: ...
@overload
def at(hour: str) -> str: ...
def at(hour):
    return hour


def first(all: "list[T]") -> "T":
    return all[0]


def open_chart(where: "Chart", gap="    ", *, mark: int | None = None):
    return str(where)


async def sound(depth: float, /, *rest: int, **more):
    return depth


for kind in (1, 2):
    pass
del kind

if __name__ == "__main__":
    arguments = 3
