#= Type aliases

#. A name that a type is assigned to stands for it.
Berths = list[int]


def right(x: Berths) -> None: ...


right([3])
right(["three"])  #! call.argument

#. `TypeAlias` says that a name is an alias, and only a type may stand behind it.
from typing import TypeAlias

Right: TypeAlias = "list[int]"
Also: TypeAlias = int | str
A: TypeAlias = 3  #! annotation.invalid
B: TypeAlias = [int]  #! annotation.invalid
C: TypeAlias = {3: int}  #! annotation.invalid
D: TypeAlias = lambda: int  #! annotation.invalid
flag = True
E: TypeAlias = int if flag else str  #! annotation.invalid
F: TypeAlias = "list["  #! annotation.invalid
G: TypeAlias = (int, str)  #! annotation.invalid
H: TypeAlias = int or str  #! annotation.form
I: TypeAlias = f"int"  #! annotation.invalid

#. `TypeAlias` stands by names of modules and classes.
from typing import TypeAlias


class Vessel:
    Berth: TypeAlias = int


def wrong() -> None:
    Local: TypeAlias = int  #! annotation.place

#. A generic alias takes as many arguments as it has variables.
from typing import TypeVar

T = TypeVar("T")
K = TypeVar("K")
V = TypeVar("V")
Duo = tuple[T, T]
Table = dict[K, V]


def right(a: Duo[int], b: Table[str, int]) -> None: ...
def many(a: Duo[int, str]) -> None: ...  #! generic.arguments
def few(a: Table[str]) -> None: ...  #! generic.arguments

#. An alias without variables takes no arguments.
from typing import TypeAlias

Plain: TypeAlias = list[int]
Either = int | str


def wrong(a: Plain[int]) -> None: ...  #! generic.arguments
def other(a: Either[int]) -> None: ...  #! generic.arguments
def right(a: Plain, b: Either) -> None: ...

#. Arguments of an alias are within the bounds of its variables.
from typing import TypeVar

N = TypeVar("N", bound=float)
Sizes = list[N]


def right(a: Sizes[int]) -> None: ...
def wrong(a: Sizes[str]) -> None: ...  #! generic.bound

#. An alias's arguments stand where its variables do.
from typing import TypeVar

T = TypeVar("T")
Pairs = list[tuple[T, T]]


def use(pairs: Pairs[int]) -> None:
    a: int = pairs[0][1]
    b: str = pairs[0][1]  #! value.assign

#. Variables that an alias is not given are unknown.
from typing import TypeVar

T = TypeVar("T")
Pairs = list[tuple[T, T]]


def use(pairs: Pairs) -> None:
    a: int = pairs[0][1]
    pairs.nowhere  #! member.absent

#. A `type` statement makes an alias, with variables of its own.
type Berths = list[int]
type Lookup[K, V] = dict[K, V]


def right(a: Berths, b: Lookup[str, int]) -> None: ...
def few(a: Lookup[int]) -> None: ...  #! generic.arguments
def none(a: Berths[int]) -> None: ...  #! generic.arguments


right([3], {"a": 3})
right(["x"], {})  #! call.argument

#. A `type` statement may speak of what comes later.
type Fleet = list[Vessel]


class Vessel: ...


def use(fleet: Fleet) -> None:
    fleet[0].nowhere  #! member.absent

#. A `type` statement takes nothing but a type.
type Right = list[int]
type A = 3  #! annotation.invalid
type B = [int]  #! annotation.invalid
type C = int if True else str  #! annotation.invalid

#. The name of a `type` statement is an object of its own, and no class.
type Kilo = int
Kilo(3)  #! call.not-callable
isinstance(3, Kilo)  #! value.not-class
class Heavy(Kilo): ...  #! class.base
Kilo.bit_length  #! member.absent
print(Kilo.__value__, Kilo.__name__, Kilo.__type_params__)

#. An alias of a class that is assigned is the class itself.
class Vessel:
    def __init__(self, name: str) -> None: ...


Ship = Vessel
Ship("Selkie")
Ship(3)  #! call.argument
isinstance(3, Ship)
class Ferry(Ship): ...

#. An alias of a union or of literals makes no objects.
from typing import Literal, Union

Size = Union[int, str]
Side = Literal["port", "starboard"]
Size(3)  #! call.not-callable
Side("port")  #! call.not-callable


def right(size: Size, side: Side) -> None: ...

#. An alias is not defined by itself alone.
type Ring = Ring  #! annotation.invalid
type To = Fro  #! annotation.invalid
type Fro = To | None  #! annotation.invalid
type Tree = int | list[Tree]

#. A recursive alias holds as deep as it goes.
type Nest = int | list[Nest]
a: Nest = [1, [2, [3]]]
b: Nest = [1, "two"]  #! value.assign
c: Nest = [1, [2, "three"]]  #! value.assign

#. A variable of the old kind is not used in a `type` statement.
from typing import TypeVar

Old = TypeVar("Old")
type Wrong = list[Old]  #! generic.definition
type Right[T] = list[T]

#. `NewType` makes a type that is told apart from what it is made of.
from typing import NewType

Berth = NewType("Berth", int)


def moor(berth: Berth) -> None: ...


moor(Berth(3))
moor(3)  #! call.argument
Berth("three")  #! call.argument
a: int = Berth(3)

#. `NewType` takes a class that objects are made of.
from typing import Any, Hashable, NewType, Protocol, TypedDict, TypeVar

T = TypeVar("T")


class Named(Protocol):
    name: str


class Fare(TypedDict):
    adult: int


A = NewType("A", list[int])
B = NewType("B", int | str)  #! class.base
C = NewType("C", Any)  #! class.base
D = NewType("D", list[T])  #! generic.scope
E = NewType("E", 3)  #! annotation.invalid
F = NewType("F", Named)  #! class.base
G = NewType("G", Fare)  #! class.base

#. `NewType` takes a name and one class.
from typing import NewType

A = NewType("A", int, str)  #! call.surplus
B = NewType("B")  #! call.missing
C = NewType("C", int)

#. A `NewType` is no class when the program runs.
from typing import NewType

Berth = NewType("Berth", int)


class Big(Berth): ...  #! class.base
isinstance(3, Berth)  #! value.not-class
class Fine(int): ...
