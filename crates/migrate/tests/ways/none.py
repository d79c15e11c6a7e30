import os
import re
from typing import Optional


class Vessel:
    def __init__(self, name: str) -> None:
        self.name = name
        self.berth: Optional[str] = None

    def moor(self) -> str:
        return self.berth.upper()

    def leave(self) -> None:
        print(self.berth.lower())


FLEET = {"Gannet": Vessel("Gannet")}


def find(name):
    if name in FLEET:
        return FLEET[name]
    return None


def flagship(name):
    for vessel in FLEET.values():
        if vessel.name == name:
            return vessel


# A call gets a name; the function gives a text, so that nothing but an exception is left.
def label(name) -> str:
    return find(name).name.upper()


def labels(names):
    for name in names:
        vessel = FLEET.get(name)
        print(vessel.name)


# What a function that says None already does.
def berth_of(name) -> Optional[str]:
    vessel = flagship(name)
    return vessel.name


# Behind something else that is evaluated first, a call cannot be moved.
def both(name):
    print("a" + "b", find(name).name)


def number(text):
    return int(re.match("[0-9]+", text).group())


def folder():
    return os.environ.get("SKERRY").lower()


def first(names):
    longest = next((name for name in names if len(name) > 3), None)
    return [longest.upper() for _ in names]


def each(vessels: list[Optional[Vessel]]):
    return [vessel.name for vessel in vessels], (lambda vessel: vessel)


def waiting(name):
    while flagship(name).name:
        pass
    if name:
        pass
    elif flagship(name).name:
        pass


def pages(text):
    hit = re.search("x", text)
    yield hit.group()


def port(tides: dict[str, int], name: str):
    return tides.get(name) + 1


def mark(seats: dict[str, dict[str, int]], name: str) -> None:
    seats.get(name)["Ada"] = 3
