import datetime
import hashlib


class Vessel:
    def board(self, passengers, vehicles=0):
        return passengers

    def leave(self, port, *, tide=1):
        return port

    def name_of(self, vessel):
        return vessel


class Ferry(Vessel):
    def board(self, passengers, vehicles, trailers):
        return passengers

    def leave(self, port):
        return port

    def name_of(self, ship):
        print(ship)
        return ship


def flag(speed):
    if speed > 20:
        colour = "red"
    return colour


def tide(depth):
    try:
        level = int(depth)
        print(level)
    except ValueError:
        print(level)


def last(names):
    for name in names:
        print(name)
    return name


async def ring(bell):
    print(bell)


async def day():
    ring(3)


def fare(minutes: int) -> int:
    return minutes


"fare " + fare(3)
hashlib.sha1("x" + "y")
datetime.datetime.utcnw()
Vessel().board(1, 2, 3, 4)
Vessel().board(1, vehicls=3)
print(fair)


class Hull:
    """What floats."""

    draught = 3


class Barge(Hull):
    hold = 40

    def __getitem__(self, deck):
        return deck


class Tug(Hull):
    hold = 2


def load(hull: Hull):
    return hull.hold


def decks(hulls: list[Hull]):
    return hulls[0][1], hulls[0].crew


def tow(tug: Tug) -> None:
    print(tug.hold)


def pull(hull: Hull) -> None:
    tow(hull)


class Chart:
    def name(self, uri, page):
        return uri


class Sheet(Chart):
    def name(self, page):
        return page


def either(flag):
    ship = Hull() if flag else Tug()
    return ship.hold


def label(speed):
    if speed > 3:
        text = "fast"
    return text
