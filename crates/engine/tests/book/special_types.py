#= Special types in annotations

#. `Any` fits everywhere and takes everything.
from typing import Any


def use(x: Any, y: object) -> None:
    a: int = x
    b: str = x
    x.anything().at.all
    y.anything  #! member.absent
    c: int = y  #! value.assign


use(3, 3)

#. `None` has no attributes of its own but those of `object`.
def use(x: None, y: int | None) -> None:
    x.__class__
    x.real  #! none.member
    y.real  #! none.member

#. Each use of what may be None is told where a file demands it; else the first in a body.
#- falls short: the first use of a value in a body is told, and no other
#- demand none-handled
def use(s: str | None, n: int | None, xs: list[int] | None) -> None:
    s.upper()  #! none.member
    if not s:
        s.lower()  #! none.member
    s.strip()  #! none.member
    n + 1  #! none.operand
    1 - n  #! none.operand
    for x in xs:  #! none.iteration
        pass
    len(xs)  #! none.argument
    if n is not None:
        n + 1

#. In a chained comparison each part is compared, also the middle one.
def use(n: int | None, m: int | None) -> None:
    0 < n < 3  #! none.operand
    if m is not None:
        0 < m < 3


def later(n: int | None) -> None:
    0 < 2 < n  #! none.operand

#. `NoReturn` and `Never` say that a function does not end: its body may not either.
import sys
from typing import Never, NoReturn


def stop() -> NoReturn:
    raise SystemExit


def leave() -> Never:
    sys.exit(1)


def turn() -> NoReturn:
    while True:
        pass


def go() -> NoReturn:  #! flow.missing-return
    print("go")


def back() -> NoReturn:
    return 3  #! value.return


async def halt() -> NoReturn:  #! flow.missing-return
    print("halt")


class Bridge:
    def fail(self, hard: bool) -> Never:  #! flow.missing-return
        if hard:
            raise ValueError

#. What follows the call of a function that does not end is not reached.
from typing import NoReturn


def stop() -> NoReturn:
    raise SystemExit


def depth(deep: bool) -> int:
    if deep:
        return 3
    stop()


def other(deep: bool) -> int:  #! flow.missing-return
    if deep:
        return 3

#. `Never` fits everywhere, and nothing but it fits `Never`.
from typing import Never


def use(x: Never) -> int:
    a: str = x
    return x


use(3)  #! call.argument

#. `object` takes everything and offers nothing.
def use(x: object) -> None:
    print(x)
    x == 3
    x + 1  #! operator.unsupported
    x()  #! call.not-callable
    x[0]  #! index.unsupported
    for y in x:  #! value.not-iterable
        pass

#. `type[C]` takes the class and those derived from it, and is called as the class is.
class Vessel:
    def __init__(self, name: str) -> None: ...


class Ferry(Vessel): ...


class Berth: ...


def make(kind: type[Vessel]) -> Vessel:
    kind(3)  #! call.argument
    return kind("Selkie")


make(Vessel)
make(Ferry)
make(Berth)  #! call.argument
make(Vessel("x"))  #! call.argument

#. `type[A | B]` takes either class.
class Vessel: ...


class Berth: ...


class Pier: ...


def make(kind: type[Vessel | Berth]) -> None:
    kind()  #= Vessel | Berth


make(Vessel)
make(Berth)
make(Pier)  #! call.argument

#. `type[Any]` and `type` take any class, and no object.
from typing import Any


def first(kind: type[Any]) -> None:
    kind.anything


def second(kind: type) -> None: ...


first(int)
second(int)
first(3)  #! call.argument
second(3)  #! call.argument

#. `type[T]` gives back what the class makes.
def make[T](kind: type[T]) -> T:
    return kind()


make(int)  #= int
make(list[str])  #= list[str]
make(3)  #! call.argument

#. What a class is asked for must be on it, not on its objects.
class Vessel:
    def __init__(self) -> None:
        self.load = 3

    fleet: int = 3


def use(kind: type[Vessel]) -> None:
    kind.fleet
    kind.load  #! member.absent


Vessel.fleet
Vessel.load  #! member.absent

#. `LiteralString` takes texts that are written in the source, and what is put together from such.
from typing import LiteralString


def order(part: LiteralString) -> None: ...


def take(name: str, n: int, word: LiteralString) -> None:
    order("bell")
    order(word)
    order("bell " + word)
    order(f"bell {word}")
    order("bell {}".format(word))
    order(", ".join(["a", word]))
    order("%s bell" % word)
    order(word * 3)
    order(word.upper())
    order(word[0])
    order(name)  #! call.argument
    order(f"bell {name}")  #! call.argument
    order(str(n))  #! call.argument
    order("bell " + name)  #! call.argument
    order(word.join([name]))  #! call.argument
    order("bell {}".format(name))  #! call.argument
    order("%s bell" % name)  #! call.argument
    order(name.upper())  #! call.argument

#. A `LiteralString` is a `str`, but not where both must be the same.
from typing import LiteralString


def loose(xs: list[str]) -> list[LiteralString]:
    return xs  #! value.return


def tight(xs: list[LiteralString]) -> list[str]:
    return xs  #! generic.invariant


def read(x: LiteralString) -> str:
    x.upper()
    x.nothing  #! member.absent
    return x

#. A literal text is a `LiteralString`, and a union of such is one.
from typing import Literal, LiteralString


def use(way: Literal["north", "south"], deep: bool, name: str) -> None:
    a: LiteralString = way
    b: LiteralString = "a" if deep else "b"
    c: LiteralString = "a" if deep else name  #! value.assign

#. Containers of literal texts are lists of `str` unless more is said.
from typing import LiteralString

names = ["a", "b"]
names.append(input())


def order(parts: list[LiteralString]) -> None: ...


order(["a", "b"])
order([input()])  #! call.argument

#. `Self` is the type of the object a method is called on.
from typing import Self


class Vessel:
    def load(self, weight: int) -> Self:
        return self

    @classmethod
    def make(cls) -> Self:
        return cls()

    def other(self, vessel: Self) -> bool:
        return True

    def both(self) -> tuple[Self, list[Self]]:
        return self, [self]


class Ferry(Vessel):
    def cars(self) -> int:
        return 3


Ferry().load(3).cars()
Ferry.make().cars()
Ferry().both()[1][0].cars()
Vessel().load(3).cars()  #! member.absent
Ferry().other(3)  #! call.argument

#. A method that promises `Self` may not give an object of the class itself: a subclass promises its own kind.
from typing import Self


class Vessel:
    def copy(self) -> Self:
        return Vessel()  #! value.return

    def again(self) -> Self:
        return type(self)()

    def third(self) -> Self:
        return self.__class__()

    @classmethod
    def make(cls) -> Self:
        return Vessel()  #! value.return

    @classmethod
    def right(cls) -> Self:
        return cls()

    def all(self) -> list[Self]:
        return [Vessel()]  #! value.return

#. `Self` may not stand outside of a class, in a static method, in a metaclass, or where `self` is annotated otherwise.
from typing import Self, TypeVar

T = TypeVar("T", bound="Vessel")


def outside(x: Self) -> None: ...  #! annotation.place


class Vessel:
    @staticmethod
    def still() -> Self: ...  #! annotation.place

    def annotated(self: T, other: Self) -> T:  #! annotation.place
        return self

    def again(self: T) -> Self:  #! annotation.place
        raise ValueError

    def plain(self: "Self", other: Self) -> Self:
        return self


class Meta(type):
    def __new__(cls) -> Self: ...  #! annotation.place

#. `Self` may not stand in a base class or an alias.
from typing import Self, TypeAlias

Same = Self  #! annotation.place
List: TypeAlias = list[Self]  #! annotation.place


class Tray(list[Self]): ...  #! annotation.place


class Tree:
    nodes: "list[Self]"

    def first(self) -> Self:
        return self.nodes[0]

#. `Self` in a protocol or a generic class keeps the arguments.
from typing import Protocol, Self


class Row[T]:
    def add(self, x: T) -> Self:
        return self


class Chained(Protocol):
    def add(self, x: int) -> Self: ...


def use(row: Row[int]) -> None:
    row.add(3).add(4)  #= Row[int]
    chained: Chained = row
    row.add("x")  #! call.argument

#. An attribute of `Self` is one of the object's own class.
from dataclasses import dataclass
from typing import Self


@dataclass
class Leg:
    name: str
    next: Self | None = None


@dataclass
class Sea(Leg):
    depth: int = 0

    def deepest(self) -> int:
        if self.next is not None:
            return self.next.depth
        return self.depth


Leg("a", Leg("b"))
Leg("a", 3)  #! call.argument
