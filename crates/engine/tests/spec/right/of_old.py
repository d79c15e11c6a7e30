#- main.py
"""The language of old asked for, constants of modules, loops over constants, and results that arguments tell."""
import compat

try:
    from functools import reduce
except ImportError:
    pass

try:
    xrange
except Exception:
    xrange = range

UNITS = ("m", "km")
NONE = ()


def total(all):
    return reduce(lambda one, other: one + other, all)


def encoded(text: str) -> str:
    if compat.OLD:
        return text.encode("ascii")
    if compat.NEW:
        return text.encode("ascii")  #! value.return
    return text


def unit_of(length):
    for unit in UNITS:
        if length < 1000:
            break
        length /= 1000
    return unit


def none_of(length):
    for unit in NONE:
        if length < 1000:
            break
    return unit  #! name.maybe-unbound


def dropped(all):
    for each in all:
        stream = each
    try:
        del stream
    except UnboundLocalError:
        pass


class Entry:
    def __init__(self, **given):
        put = super().__setattr__
        for key, value in given.items():
            put(key, value)


print(Entry(name="north").name)


class Rows:
    def next(self, number=0):
        if number > len(self.rows):
            return None
        return ("SPACE", number)

    def use(self):
        if self.next() and self.next()[0] == "SPACE":
            return True
        return self.next(2)[0]  #! none.index


class Epoch:
    def __init__(self, days):
        self.days = float(days)

    def __sub__(self, other):
        if isinstance(other, (int, float)):
            return Epoch(self.days - float(other))
        elif isinstance(other, Epoch):
            return self.days - other.days
        else:
            raise TypeError("Invalid operand type")


START = Epoch(2451545.0)


def centuries(epoch):
    if not isinstance(epoch, Epoch):
        raise TypeError
    (epoch - 3.0) / 36525.0  #! operator.unsupported
    return (epoch - START) / 36525.0


#- compat.py
import sys

OLD = sys.version_info[0] == 2
NEW = not OLD
