#= Names and scopes

#. A name that is bound nowhere is not defined.
n = 3
n
m  #! name.undefined


def use() -> None:
    n
    k  #! name.undefined

#. A name is looked up in the function, those around it, the module and the built-ins.
outer = 3


def use() -> None:
    inner = 4

    def deep() -> int:
        lost  #! name.undefined
        return inner + outer + len([])

#. A function does not see the names of its class.
class Vessel:
    size = 3

    def area(self) -> int:
        return size  #! name.undefined

    def right(self) -> int:
        return self.size

    more = size + 1

#. A comprehension in a class's body sees the class's names in its first iterable only.
class Vessel:
    size = 3
    rows = [row for row in range(size)]
    wrong = [size for row in range(2)]  #! name.undefined

#. The names of a comprehension are its own.
def use(xs: list[int]) -> None:
    twice = [each * 2 for each in xs]
    {key: value for key, value in zip(xs, xs)}
    each  #! name.undefined
    key  #! name.undefined
    twice

#. A name that `:=` binds in a comprehension belongs to the function around.
def use(xs: list[int]) -> None:
    [last := x for x in xs]
    last
    x  #! name.undefined

#. The parameters of a lambda are its own.
f = lambda q: q
f(3)
q  #! name.undefined

#. The parameters of a function are its own.
def moor(berth: int) -> None:
    berth


berth  #! name.undefined

#. A name is local to a function that binds it anywhere, and not bound before.
count = 3


def wrong() -> None:
    print(count)  #! name.unbound
    count = 4


def right() -> None:
    global count
    print(count)
    count = 4

#. A name that is bound on some ways only may not be bound.
import random


def use() -> None:
    if random.random() > 0.5:
        late = 1
        early = 2
    else:
        early = 3
    print(early)
    print(late)  #! name.maybe-unbound

#. A name that a loop binds may not be bound behind it.
def use(xs: list[int]) -> None:
    for x in xs: ...
    print(x)  #! name.maybe-unbound


def right(xs: list[int]) -> None:
    x = 0
    for x in xs: ...
    print(x)

#. A name that is deleted is not bound any more.
def use() -> None:
    n = 3
    print(n)
    del n
    print(n)  #! name.unbound

#. The name of an exception is gone behind its handler.
def use() -> None:
    try:
        open("log")
    except OSError as error:
        print(error)
    print(error)  #! name.unbound

#. `nonlocal` binds the name of a function around.
def outer() -> int:
    count = 0

    def more() -> None:
        nonlocal count
        count += 1

    def wrong() -> None:
        count += 1  #! name.unbound

    return count

#. `global` binds the module's name.
def launch() -> None:
    global fleet
    fleet = 3


launch()
print(fleet)
print(flet)  #! name.undefined

#. Built-in names are there everywhere.
len([1])
print(__name__, __file__)
raw_input()  #! name.undefined

#. A name with two underscores in a class is the class's own.
class Vessel:
    def __init__(self) -> None:
        self.__hull = 3

    def hull(self) -> int:
        return self.__hull


Vessel().hull()
Vessel().__hull  #! member.absent

#. `from module import *` binds what the module lists, or all that begins without an underscore.
from vessels import *

Ferry
_Tug  #! name.undefined

#- vessels.py
class Ferry: ...
class _Tug: ...

#. `import a.b` binds `a`.
import os.path

os.path.join("a", "b")
path  #! name.undefined

#. `import a.b as c` binds `c`.
import os.path as paths

paths.join("a", "b")
os  #! name.undefined

#. A class's own name is not there in its body yet.
class Vessel:
    kind = Vessel  #! name.unbound

    def copy(self) -> "Vessel":
        return Vessel()

#. A default is worked out where the function is defined.
class Vessel:
    size = 3

    def right(self, n: int = size) -> None: ...
    def wrong(self, n: int = later) -> None: ...  #! name.undefined

    later = 3

#. A decorator is looked up where the function is defined.
def mark(f):
    return f


@mark
def right() -> None: ...


@late  #! name.unbound
def wrong() -> None: ...


def late(f):
    return f

#. In a `match`, a name alone is bound, and a dotted name is compared.
class Side:
    PORT = 1


def use(x: int) -> None:
    match x:
        case Side.PORT: ...
        case Side.BOW: ...  #! member.absent
        case other:
            print(other)
    print(x)
