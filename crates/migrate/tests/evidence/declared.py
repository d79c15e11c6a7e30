"""Attributes by class bodies and variables of modules that begin as None or empty."""
import enum
from dataclasses import dataclass

current = None  #= current: Hull | None fair
tides = {}  #= tides: dict[str, int] fair
closed = False
__all__ = []  #= __all__: -
season = None  #= season: -


class Hull:
    line = None  #= self.line: str | None fair bases attributes
    calls = []  #= self.calls: list[int] fair
    master = None  #= self.master: -
    nothing = None  #= self.nothing: -
    draught = None  #= self.draught: -

    def __init__(self, master: str):
        self.master = master

    def call(self, berth: int) -> None:
        self.calls.append(berth)


class Ferry(Hull):
    line = "Skerry"

    @property
    def draught(self) -> int:
        return 3

    def leave(self) -> str:
        self.line = "none"
        return self.line


@dataclass
class Sailing:
    stops = []  #= self.stops: -


class Deck(enum.Enum):
    upper = None  #= self.upper: -


def moor(vessel: Hull) -> None:
    global current
    current = vessel
    tides["north"] = 3


def open_season():
    from calendar import month_name as season
    return season
