"""What functions do with their parameters."""
from __future__ import annotations

import enum


class Tide(enum.Enum):
    HIGH = 1
    LOW = 2


class Vessel:
    def __init__(self, draught):
        self.draught = draught

    def sail(self):
        return 3

    def moor(self):
        return 4


class Ferry(Vessel):
    def load(self):
        return 5


def shout(name):  #= name: str fair uses
    return name.upper()


def depart(boat):  #= boat: Vessel fair uses
    boat.sail()
    boat.moor()


def load(ferry):  #= ferry: Ferry fair uses
    ferry.load()


def late(minutes):  #= minutes: int fair uses
    return minutes > 10


def fare(price):  #= price: float fair uses
    return price + 1.5


def is_high(tide):  #= tide: Tide low uses
    return tide == Tide.HIGH


def price(fares):  #= fares: dict[str, Any] fair uses
    return fares["adult"]


def names(vessels):  #= vessels: Iterable[Vessel] fair uses
    for vessel in vessels:
        vessel.sail()
        vessel.moor()


def run(call):  #= call: Callable[..., Any] fair uses
    return call()


def fill(width=None):  #= width: int | None fair defaults uses
    if width is None:
        width = 80
    return width


def title(name=None):  #= name: str | None fair defaults uses
    return name or "Skerry"


def of_name(vessel):  #= vessel: Vessel fair uses
    vessel.sail()


def nothing(thing):  #= thing: -
    return [thing]


def only_asked(late):  #= late: bool low uses
    if late:
        return 1
    return 2


def is_told(thing):  #= thing: -
    if isinstance(thing, str):
        return thing.upper()
    return thing
