"""Evidence that agrees, and evidence that does not."""
from __future__ import annotations


class Vessel:
    def sail(self):
        return 1


# More is asked for than is known to come.
def show(depth):  #= depth: float | str low
    if isinstance(depth, str):
        return depth
    return str(depth)


show(1.5)


# What is done with it says which part of what arrives is meant.
def shout(name):  #= name: str fair calls uses
    return name + "!"


shout("Gannet")


# The default is one more value that arrives.
def rate(price=0):  #= price: str | int low calls defaults
    print(price)


rate("free")


# A flag.
def open_desk(late=False):  #= late: bool fair
    print(late)


# Another default than None says less where calls pass None.
def close_desk(hour=8):  #= hour: int | None
    print(hour)


close_desk(None)


# Nothing stands for an object.
_MISSING = object()


def berth(number=_MISSING):  #= number: -
    print(number)


def maybe(name):  #= name: str | None fair
    if name is None:
        return "nobody"
    return name.upper()


def anything(first, *rest, **more):  #= first: str fair calls; rest: int low calls; more: bool low calls
    print(first, rest, more)


anything("Gannet", 1, 2, late=True)


# What may be left out where it is passed on is meant to be given here.
def quote(port=None):  #= port: str | None
    return port.upper() if port else ""


def ask(port):  #= port: str fair
    return quote(port)


quote("Skerry")
