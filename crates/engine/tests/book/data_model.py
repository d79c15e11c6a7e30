#= Data model

#. Special methods are looked up on the class.
class Vessel:
    def __init__(self) -> None:
        self.__len__ = lambda: 3


class Fleet:
    def __len__(self) -> int: ...


len(Fleet())
len(Vessel())  #! class.protocol

#. `__len__` gives a whole number, `__bool__` a truth value, `__str__` a text.
class Right:
    def __len__(self) -> int: ...
    def __bool__(self) -> bool: ...
    def __str__(self) -> str: ...


class Wrong:
    def __len__(self) -> str: ...  #! class.special-result
    def __bool__(self) -> int: ...  #! class.special-result
    def __str__(self) -> int: ...  #! class.special-result

#. `__hash__` gives a whole number.
class Right:
    def __hash__(self) -> int: ...


class Wrong:
    def __hash__(self) -> str: ...  #! class.special-result

#. `__iter__` gives an iterator.
from collections.abc import Iterator


class Right:
    def __iter__(self) -> Iterator[int]: ...


class Wrong:
    def __iter__(self) -> int: ...


for x in Right(): ...
for y in Wrong(): ...  #! value.not-iterable

#. `__getitem__` says what is in brackets.
class Row:
    def __getitem__(self, i: int) -> str: ...


a: str = Row()[0]
Row()["a"]  #! index.unsupported
b: int = Row()[0]  #! value.assign

#. `__setitem__` takes what is assigned in brackets.
class Row:
    def __setitem__(self, i: int, value: str) -> None: ...


row = Row()
row[0] = "a"
row["a"] = "b"  #! value.item
row[0] = 3  #! value.item
row[0]  #! index.unsupported

#. `__contains__` is asked by `in`.
class Row:
    def __contains__(self, x: int) -> bool: ...


3 in Row()
"a" in Row()  #! operator.unsupported

#. `__call__` makes objects that are called.
class Bell:
    def __call__(self, n: int) -> str: ...


class Quiet: ...


a: str = Bell()(3)
Bell()("x")  #! call.argument
Quiet()()  #! call.not-callable

#. `__getattr__` gives the attributes that are not there otherwise.
class Loose:
    known: int = 3

    def __getattr__(self, name: str) -> str: ...


a: str = Loose().anything
b: int = Loose().known
c: int = Loose().anything  #! value.assign

#. `__setattr__` takes what is assigned to attributes that are not declared.
class Loose:
    known: str = ""

    def __setattr__(self, name: str, value: int) -> None: ...


loose = Loose()
loose.anything = 3
loose.anything = "x"  #! value.assign
loose.known = "x"

#. A property is read by its getter and written by its setter.
class Vessel:
    @property
    def length(self) -> int: ...
    @length.setter
    def length(self, v: float) -> None: ...

    @property
    def width(self) -> int: ...


vessel = Vessel()
a: int = vessel.length
vessel.length = 3.5
vessel.length = "x"  #! value.assign
vessel.width = 3  #! member.readonly
b: str = vessel.width  #! value.assign

#. A property's deleter lets it be deleted.
class Vessel:
    @property
    def length(self) -> int: ...
    @length.deleter
    def length(self) -> None: ...

    @property
    def width(self) -> int: ...
    @width.setter
    def width(self, v: int) -> None: ...


del Vessel().length
del Vessel().width  #! member.readonly

#. A property over a decorated getter is what that gives.
from collections.abc import Callable


def as_text[**P](f: Callable[P, object]) -> Callable[P, str]: ...


class Vessel:
    @property
    @as_text
    def length(self) -> int: ...


a: str = Vessel().length
b: int = Vessel().length  #! value.assign

#. A descriptor is read by `__get__` and written by `__set__`.
class Depth:
    def __get__(self, obj: object, owner: type | None = None) -> int: ...
    def __set__(self, obj: object, value: float) -> None: ...


class Vessel:
    depth = Depth()


vessel = Vessel()
a: int = vessel.depth
vessel.depth = 3.5
vessel.depth = "x"  #! value.assign
b: str = vessel.depth  #! value.assign

#. A descriptor that only sets is written by `__set__` as well.
class OnlySet:
    def __set__(self, obj: object, value: int) -> None: ...


class Vessel:
    secret = OnlySet()


Vessel().secret = 3
Vessel().secret = "x"  #! value.assign

#. A descriptor of a base is asked by subclasses that assign it.
class Depth:
    def __get__(self, obj: object, owner: type | None = None) -> int: ...
    def __set__(self, obj: object, value: int) -> None: ...


class Vessel:
    depth = Depth()


class Ferry(Vessel):
    def sink(self) -> None:
        self.depth = 4
        self.depth = "x"  #! value.assign

#. A cached property may be overwritten with what its getter gives.
from functools import cached_property


class Vessel:
    @cached_property
    def mass(self) -> float: ...


Vessel().mass = 3
Vessel().mass = "heavy"  #! value.assign

#. A class method is handed the class, a static method nothing.
class Vessel:
    @classmethod
    def make(cls, n: int) -> "Vessel": ...

    @staticmethod
    def count(n: int) -> int: ...


Vessel.make(3)
Vessel().make("x")  #! call.argument
Vessel.count(3)
Vessel().count("x")  #! call.argument

#. A method that is read from the class takes the object first.
class Vessel:
    def moor(self, berth: int) -> None: ...


Vessel.moor(Vessel(), 3)
Vessel.moor(3)  #! call.missing
Vessel().moor(3)

#. `__slots__` says which attributes objects have.
class Vessel:
    __slots__ = ("gears",)

    def __init__(self) -> None:
        self.gears = 3

    def paint(self) -> None:
        self.colour = "red"  #! member.undeclared


class Open(Vessel):
    def paint(self) -> None:
        self.colour = "red"


Vessel().colour = "red"  #! member.undeclared

#. A metaclass's attributes are the class's, and not its objects'.
class Meta(type):
    def brand(cls) -> str: ...
    def __len__(cls) -> int: ...


class Vessel(metaclass=Meta): ...


Vessel.brand()
len(Vessel)
Vessel().brand()  #! member.absent
len(Vessel())  #! class.protocol
Vessel.nowhere  #! member.absent

#. A metaclass's `__getitem__` says what is in brackets behind its classes.
class Meta(type):
    def __getitem__(cls, key: str) -> int: ...


class Vessel(metaclass=Meta): ...


a: int = Vessel["x"]
Vessel[3]  #! index.unsupported

#. The metaclass of a class goes together with those of its bases.
class One(type): ...
class Two(type): ...
class Both(One, Two): ...
class A(metaclass=One): ...
class B(A, metaclass=Two): ...  #! class.base
class C(A, metaclass=Both): ...

#. `__eq__` goes with everything, and `__lt__` with what it takes.
class Vessel:
    def __lt__(self, other: "Vessel") -> bool: ...


Vessel() < Vessel()
Vessel() == 3
Vessel() < 3  #! operator.unsupported

#. `total_ordering` makes the other comparisons.
from functools import total_ordering


@total_ordering
class Vessel:
    def __lt__(self, other: "Vessel") -> bool: ...


class Plain:
    def __lt__(self, other: "Plain") -> bool: ...


Vessel() >= Vessel()
Plain() >= Plain()  #! operator.unsupported

#. In-place methods are asked before plain ones.
class Row:
    def __iadd__(self, other: int) -> "Row": ...


row = Row()
row += 3
row + 3  #! operator.unsupported
row += "x"  #! operator.unsupported

#. `__enter__` says what `as` names.
class Gate:
    def __enter__(self) -> "Gate": ...
    def __exit__(self, *args: object) -> None: ...
    def swing(self) -> None: ...


with Gate() as gate:
    gate.swing()
    gate.nowhere  #! member.absent

#. `__exit__` that gives a truth value may swallow exceptions.
class Swallows:
    def __enter__(self) -> None: ...
    def __exit__(self, *args: object) -> bool: ...


class Passes:
    def __enter__(self) -> None: ...
    def __exit__(self, *args: object) -> None: ...


def wrong() -> int:  #! flow.missing-return
    with Swallows():
        return 3


def right() -> int:
    with Passes():
        return 3

#. A generator function gives a generator.
from collections.abc import Generator, Iterator


def right() -> Iterator[int]:
    yield 1


def wrong() -> list[int]:  #! value.return
    yield 1


a: Iterator[int] = right()

#. `__class__` and `type(x)` give the class.
class Vessel:
    kind = "ferry"


def use(vessel: Vessel) -> None:
    type(vessel).kind
    vessel.__class__.kind
    type(vessel).nowhere  #! member.absent

#. Every object has the attributes of `object`.
class Vessel: ...


Vessel().__class__
Vessel().__dict__
Vessel().__doc__
Vessel().__nowhere__  #! member.absent

#. A function has a name, a module and defaults.
def moor() -> None: ...


a: str = moor.__name__
moor.__module__
b: int = moor.__name__  #! value.assign

#. `super()` goes to the next class in the order of resolution.
class Base:
    def size(self) -> int: ...


class Sub(Base):
    def size(self) -> int:
        a: str = super().size()  #! value.assign
        return super().size()
