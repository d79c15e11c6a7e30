# Stub of `tides`, written by Leitmotiv from its source. Yours to edit.
from enum import Enum
from os import PathLike
from re import Pattern
from typing import Any, Final, NamedTuple, NewType, TYPE_CHECKING, TypeVar, overload

T = TypeVar("T")
DATUM: Final[float]
HIGH: int
NAMES: list[str]
word: Pattern[str]
Table = dict[str, int]
Mark = NewType("Mark", int)
class Spell(NamedTuple):
    low: Any
    high: Any = ...
class Leg(NamedTuple):
    port: str
    minutes: int = ...
class State(Enum):
    EBB = ...
    FLOOD = ...
class Gauge(_Base):
    reading: float
@overload
def at(hour: int) -> float: ...
@overload
def at(hour: str) -> str: ...
def first(all: list[T]) -> T: ...
def open_chart(where: Chart, gap: str = "    ", *, mark: int | None = None) -> str: ...
async def sound(depth: float, /, *rest: int, **more) -> float: ...
class _Base: ...

if TYPE_CHECKING:
    Chart = str | PathLike[str]
