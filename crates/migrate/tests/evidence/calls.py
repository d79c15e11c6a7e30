"""What calls pass."""
from __future__ import annotations


class Vessel:
    def sail(self):
        return 3


class Ferry(Vessel):
    pass


class Tug(Vessel):
    pass


def moor(vessel):  #= vessel: Vessel fair calls
    print(vessel)


moor(Ferry())
moor(Tug())


def greet(name, times):  #= name: str fair calls; times: float fair calls
    print(name, times)


greet("Gannet", 2)
greet("Tern", 2.5)


def log(entry):  #= entry: int | str low calls
    print(entry)


log(3)
log("late")


def label(name, note=None):  #= note: str | None low calls defaults; name: str fair
    print(name, note)


label("Gannet", note="late")


def count(berths):  #= berths: list[int] fair calls
    print(berths)


count([1, 2])
count([])


def again(step, times):  #= step: int fair; times: int fair
    if times > 0:
        again(step, times - 1)


again(3, 4)


def relay(name):  #= name: str fair calls uses
    greet(name, 1)


relay("Tern")


def each(call, items):  #= call: Callable[[int], int] fair; items: list[int] fair
    return [call(item) for item in items]


def twice(number):  #= number: int fair uses
    return number * 2


each(twice, [1, 2])


def unseen(thing):  #= thing: -
    print(thing)


# An empty tuple says that there may be any number.
def moor(depths=()):  #= depths: tuple[int, ...] fair calls
    return len(depths)


moor(depths=(3, 4))
#--- tests/test_ferry.py
import pytest
from ferry import Ferry, label


@pytest.fixture
def ferry():
    return Ferry()


@pytest.fixture
def port():
    yield "Skerry"


def test_label(ferry, port):  #= ferry: Ferry fair calls; port: str fair calls
    label(port)


@pytest.mark.parametrize("name, berth", [("Gannet", 3), ("Tern", 4)])
def test_names(name, berth):  #= name: str fair calls; berth: int fair calls
    print(name, berth)
