#= Protocols

#. What has a protocol's members fits it, whatever its bases.
from typing import Protocol


class Named(Protocol):
    name: str

    def rename(self, name: str) -> None: ...


class Vessel:
    name: str = ""

    def rename(self, name: str) -> None: ...


class Quay:
    name: str = ""


def show(thing: Named) -> None: ...


show(Vessel())
show(Quay())  #! class.protocol

#. A member's type must fit.
from typing import Protocol


class Deep(Protocol):
    def depth(self) -> float: ...


class Whole:
    def depth(self) -> int: ...


class Text:
    def depth(self) -> str: ...


a: Deep = Whole()
b: Deep = Text()  #! class.protocol

#. A method's parameters must take what the protocol's take.
from typing import Protocol


class Moors(Protocol):
    def moor(self, berth: int, line: str = "") -> None: ...


class Right:
    def moor(self, berth: float, line: str = "", more: int = 0) -> None: ...


class Few:
    def moor(self, berth: int) -> None: ...


class Other:
    def moor(self, berth: str, line: str = "") -> None: ...


a: Moors = Right()
b: Moors = Few()  #! class.protocol
c: Moors = Other()  #! class.protocol

#. An attribute that may be assigned is of just the protocol's type.
from typing import Protocol


class Sized(Protocol):
    size: float


class Exact:
    size: float = 0.0


class Narrow:
    size: int = 0


a: Sized = Exact()
b: Sized = Narrow()  #! class.protocol

#. A property of a protocol is only read.
from typing import Protocol


class Sized(Protocol):
    @property
    def size(self) -> float: ...


class Narrow:
    size: int = 0


class Text:
    size: str = ""


a: Sized = Narrow()
b: Sized = Text()  #! class.protocol

#. What a protocol lets others assign is not read-only in what fits it.
from dataclasses import dataclass
from typing import NamedTuple, Protocol


class Named(Protocol):
    name: str


class Property:
    @property
    def name(self) -> str: ...


@dataclass(frozen=True)
class Frozen:
    name: str


class Spot(NamedTuple):
    name: str


@dataclass
class Open:
    name: str


a: Named = Open("x")
b: Named = Property()  #! class.protocol
c: Named = Frozen("x")  #! class.protocol
d: Named = Spot("x")  #! class.protocol

#. A class variable of a protocol is one of the class.
from typing import ClassVar, Protocol


class Counts(Protocol):
    count: ClassVar[int]


class OfClass:
    count: ClassVar[int] = 3


class OfObject:
    def __init__(self) -> None:
        self.count = 3


a: Counts = OfClass()
b: Counts = OfObject()  #! class.protocol

#. A method of a protocol is something to call.
from typing import Protocol


class Rings(Protocol):
    def ring(self) -> int: ...


class Bell:
    def ring(self) -> int: ...


class Text:
    ring: str = ""


a: Rings = Bell()
b: Rings = Text()  #! class.protocol

#. All bases of a protocol are protocols.
from typing import Protocol


class Named(Protocol):
    name: str


class Vessel: ...


class Right(Named, Protocol):
    berths: int


class Wrong(Named, Vessel, Protocol): ...  #! class.base

#. A class that derives from a protocol and does not say so is no protocol.
from typing import Protocol


class Named(Protocol):
    name: str


class Vessel(Named):
    berths: int = 3


class Other:
    name: str = ""
    berths: int = 3


def moor(vessel: Vessel) -> None: ...


moor(Vessel())
moor(Other())  #! call.argument

#. A protocol makes no objects.
from typing import Protocol


class Rings(Protocol):
    def ring(self) -> int: ...


class Bell(Rings):
    def ring(self) -> int:
        return 1


Rings()  #! class.abstract
Bell()

#. `type[P]` of a protocol takes classes that can be made.
from typing import Protocol


class Rings(Protocol):
    def ring(self) -> int: ...


class Bell:
    def ring(self) -> int: ...


def make(kind: type[Rings]) -> Rings:
    return kind()


make(Bell)
make(Rings)  #! call.argument
make(int)  #! call.argument

#. Only protocols that are marked are asked about by `isinstance`.
from typing import Protocol, runtime_checkable


class Plain(Protocol):
    def ring(self) -> int: ...


@runtime_checkable
class Marked(Protocol):
    def ring(self) -> int: ...


def use(x: object) -> None:
    isinstance(x, Marked)
    isinstance(x, Plain)  #! value.not-class

#. A marked protocol with attributes is not asked about by `issubclass`.
from typing import Protocol, runtime_checkable


@runtime_checkable
class Named(Protocol):
    name: str


@runtime_checkable
class Rings(Protocol):
    def ring(self) -> int: ...


def use(kind: type[object]) -> None:
    issubclass(kind, Rings)
    issubclass(kind, Named)  #! value.not-class

#. `isinstance` with a marked protocol narrows to what has its members.
from typing import Protocol, final, runtime_checkable


@runtime_checkable
class Closes(Protocol):
    def close(self) -> None: ...


@final
class Spoke: ...


@final
class Valve:
    def close(self) -> None: ...


def use(x: Spoke | Valve) -> None:
    if isinstance(x, Closes):
        a: Valve = x
        b: Spoke = x  #! value.assign

#. A function fits a protocol with `__call__` if its signature does.
from typing import Protocol


class Shifter(Protocol):
    def __call__(self, gear: int, *, quiet: bool = False) -> str: ...


def right(gear: int, *, quiet: bool = False) -> str: ...
def result(gear: int, *, quiet: bool = False) -> bytes: ...
def name(g: int, *, quiet: bool = False) -> str: ...
def lacks(gear: int) -> str: ...


a: Shifter = right
b: Shifter = result  #! class.protocol
c: Shifter = name  #! class.protocol
d: Shifter = lacks  #! class.protocol

#. A class fits a protocol with `__call__` if its constructor does.
from typing import Protocol


class Makes(Protocol):
    def __call__(self, name: str) -> object: ...


class Right:
    def __init__(self, name: str) -> None: ...


class Wrong:
    def __init__(self) -> None: ...


a: Makes = Right
b: Makes = Wrong  #! class.protocol

#. A protocol with `__call__` may ask for other members as well.
from typing import Protocol


class Named(Protocol):
    __name__: str

    def __call__(self) -> int: ...


class Counted(Protocol):
    count: int

    def __call__(self) -> int: ...


def give() -> int: ...


a: Named = give
b: Counted = give  #! class.protocol

#. A protocol with several signatures is fitted by what has them all.
from typing import Protocol, overload


class Packs(Protocol):
    @overload
    def pack(self, x: int) -> int: ...
    @overload
    def pack(self, x: str) -> str: ...


class Right:
    @overload
    def pack(self, x: int) -> int: ...
    @overload
    def pack(self, x: str) -> str: ...
    def pack(self, x): ...


class Wrong:
    def pack(self, x: int) -> int: ...


a: Packs = Right()
b: Packs = Wrong()  #! class.protocol

#. Protocols may speak of themselves.
from typing import Protocol


class Node(Protocol):
    def next(self) -> "Node": ...


class Link:
    def next(self) -> "Link": ...


class Broken:
    def next(self) -> int: ...


a: Node = Link()
b: Node = Broken()  #! class.protocol

#. A module fits a protocol by its functions and names.
from typing import Protocol

import tides


class Table(Protocol):
    limit: int

    def height(self, hour: int) -> float: ...


class Other(Protocol):
    def depth(self) -> float: ...


a: Table = tides
b: Other = tides  #! class.protocol

#- tides.py
limit: int = 12


def height(hour: int) -> float: ...

#. A class object fits a protocol by what is on the class.
from typing import Protocol


class Makes(Protocol):
    def make(self) -> int: ...


class Yard:
    @classmethod
    def make(cls) -> int: ...


class Other:
    def make(self, x: str) -> str: ...


a: Makes = Yard
b: Makes = Other  #! class.protocol

#. `self` in a protocol's method is what implements it.
from typing import Protocol, Self


class Copies(Protocol):
    def copy(self) -> Self: ...


class Right:
    def copy(self) -> "Right": ...


class Wrong:
    def copy(self) -> int: ...


a: Copies = Right()
b: Copies = Wrong()  #! class.protocol

#. A protocol is invariant, covariant or contravariant in a variable as it uses it.
from typing import Protocol


class Gives[T](Protocol):
    def give(self) -> T: ...


class Takes[T](Protocol):
    def take(self, x: T) -> None: ...


def use(gives: Gives[int], takes: Takes[float]) -> None:
    a: Gives[float] = gives
    b: Takes[int] = takes
    c: Gives[str] = gives  #! value.assign
    d: Takes[str] = takes  #! value.assign

#. `None` fits a protocol that asks for what every object has.
from typing import Protocol


class Shown(Protocol):
    def __str__(self) -> str: ...


class Named(Protocol):
    name: str


a: Shown = None
b: Named = None  #! value.assign

#. What can be hashed fits `Hashable`.
from collections.abc import Hashable

a: Hashable = 3
b: Hashable = (1, "a")
c: Hashable = [1]  #! class.protocol
d: Hashable = {"a": 1}  #! class.protocol

#. What can be iterated fits `Iterable`, with its elements.
from collections.abc import Iterable, Iterator


class Row:
    def __iter__(self) -> Iterator[int]: ...


def read(rows: Iterable[str]) -> None: ...


read("abc")
read(["a"])
read(Row())  #! class.protocol
read(3)  #! class.protocol
