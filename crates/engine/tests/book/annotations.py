#= Type annotations

#. A parameter takes what its annotation says, and a function gives what its own says.
def berth(number: int) -> str:
    return str(number)


berth(3)
berth("three")  #! call.argument


def depth() -> int:
    return "deep"  #! value.return

#. A parameter without an annotation takes anything.
def moor(vessel, line: int):
    return vessel


moor("Selkie", 3)
moor(None, 3)
moor(None, "three")  #! call.argument

#. A default must fit the annotation, and `None` is no exception: it has to be said.
def board(name: str = "Selkie", berth: int | None = None) -> None: ...
def land(name: str = None) -> None: ...  #! value.default
def wait(minutes: int = "ten") -> None: ...  #! value.default
async def fetch(name: str = None) -> None: ...  #! value.default


class Quay:
    def call(self, *, name: str = None, note: "str | None" = None) -> None: ...  #! value.default

#. A variable is no type, nor is a value.
from typing import cast

count = 3


class Vessel: ...


Ship = Vessel
selkie = Vessel()
kind: type[Vessel] = Vessel


def right(a: Vessel, b: Ship, c: type[Vessel]) -> None: ...
def counted(a: count) -> None: ...  #! annotation.invalid
def single(a: selkie) -> None: ...  #! annotation.invalid
def kinds(a: kind) -> None: ...  #! annotation.invalid
def inside(a: dict[str, count]) -> None: ...  #! annotation.invalid
def either(a: int | count) -> None: ...  #! annotation.invalid
def given() -> list[selkie]: ...  #! annotation.invalid


cast(count, 3)  #! annotation.invalid
cast(Vessel, 3)

#. What may hold several classes, as by a test or a try, may stand as a type.
try:
    from array import array as Row
except ImportError:
    Row = list


def sound(depths: Row) -> None: ...


def load(freight: Missing) -> None: ...  #! name.undefined

#. These are no type expressions: displays, calls, lambdas, comparisons, numbers, conditions, formatted texts.
flag = True


def a(x: [int, str]) -> None: ...  #! annotation.invalid
def b(x: (int, str)) -> None: ...  #! annotation.invalid
def c(x: {}) -> None: ...  #! annotation.invalid
def d(x: eval("int")) -> None: ...
def e(x: lambda: int) -> None: ...  #! annotation.invalid
def f(x: [int][0]) -> None: ...  #! annotation.invalid
def g(x: int if flag else str) -> None: ...  #! annotation.invalid
def h(x: 3) -> None: ...  #! annotation.invalid
def i(x: not int) -> None: ...  #! annotation.invalid
def j(x: int or str) -> None: ...  #! annotation.form
def k(x: f"int") -> None: ...  #! annotation.invalid
def l(x: True) -> None: ...  #! annotation.invalid
def m(x: -1) -> None: ...  #! annotation.invalid
def n(x: 1 < 2) -> None: ...  #! annotation.invalid
def o(x: b"int") -> None: ...  #! annotation.invalid
def p(x: [part for part in (int, str)]) -> None: ...  #! annotation.invalid
def q(x: (yes := int)) -> None: ...  #! annotation.invalid
def r(x: int | str | None) -> None: ...

#. A class without type parameters takes no arguments, nor does `Any`.
from typing import Any


class Vessel: ...


def a(x: list[int]) -> None: ...
def b(x: int[str]) -> None: ...  #! generic.arguments
def c(x: Vessel[int]) -> None: ...  #! generic.arguments
def d(x: Any[int]) -> None: ...  #! annotation.form
def e(x: dict[str, Vessel[int]]) -> None: ...  #! generic.arguments
def f(x: None[int]) -> None: ...  #! annotation.invalid

#. A module is no type, nor is a function.
import types


def sail() -> None: ...


def a(x: types) -> None: ...  #! annotation.invalid
def b(x: sail) -> None: ...  #! annotation.invalid
def c(x: types.ModuleType) -> None: ...

#. What is quoted is read as if it were not, also over several lines, and must be one expression.
def a(x: "int", y: "list[str]", z: """
    int |
    str
""") -> "None": ...


def b(x: "int str") -> None: ...  #! annotation.invalid
def c(x: "list[") -> None: ...  #! annotation.invalid
def d(x: "") -> None: ...  #! annotation.invalid


a("three", [], 3)  #! call.argument

#. What is quoted may speak of what is defined further down; what is not quoted may not, before Python 3.14.
class Berth:
    def vessel(self) -> "Vessel": ...
    def other(self) -> Vessel: ...  #! name.unbound


class Vessel: ...

#. Annotations that are postponed may speak of what is defined further down.
from __future__ import annotations


class Berth:
    def vessel(self) -> Vessel: ...
    def nobody(self) -> Nobody: ...  #! name.undefined


class Vessel: ...

#. A quoted name beside `|` is evaluated as the program runs, and a text takes no `|`.
#- python 3.13
class Pump: ...


def a(x: "Pump | None") -> None: ...
def b(x: "Pump" | None) -> None: ...  #! annotation.form
def c(x: None | "Pump") -> None: ...  #! annotation.form
def d(x: "Pump" | "int") -> None: ...  #! annotation.form
def e(x: "Pump" | int) -> None: ...  #! annotation.form
def f(x: "Pump" | list[int]) -> None: ...
def g(x: list["Pump"] | None) -> None: ...

#. From Python 3.14 on annotations are evaluated late, and nothing of the kind fails.
#- python 3.14
class Pump:
    def next(self) -> Pump: ...
    def other(self) -> Valve: ...
    def third(self) -> Nobody: ...  #! name.undefined


class Valve: ...


def a(x: "Pump" | None) -> None: ...

#. `None` stands for the type of `None`.
def a(x: None) -> None: ...


a(None)
a(3)  #! call.argument


def b() -> None:
    return 3  #! value.return

#. Parameters `*args` hold a tuple of what is annotated, `**kwargs` a dictionary.
def load(*weights: int, **labels: str) -> None:
    weights  #= tuple[int, ...]
    labels  #= dict[str, str]
    weights.append(3)  #! member.absent


load(1, 2, bow="x")
load(1, "2")  #! call.argument
load(1, bow=3)  #! call.argument

#. The result of an async function is awaited, and what the annotation says is what the await gives.
async def depth() -> int:
    return 3


async def sound() -> None:
    number = await depth()
    number  #= int
    (await depth()).upper()  #! member.absent

#. What a generator is annotated with must be able to be a generator.
from collections.abc import AsyncGenerator, AsyncIterable, AsyncIterator, Generator, Iterable, Iterator
from typing import Any


def a() -> Iterator[int]:
    yield 1


def b() -> Iterable[int]:
    yield 1


def c() -> Generator[int, None, str]:
    yield 1
    return "done"


def d() -> object:
    yield 1


def e() -> Any:
    yield 1


def f() -> list[int]:  #! value.return
    yield 1


def g() -> int:  #! value.return
    yield 1


async def h() -> AsyncIterator[int]:
    yield 1


async def i() -> AsyncIterable[int]:
    yield 1


async def j() -> AsyncGenerator[int, None]:
    yield 1


async def k() -> Iterator[int]:  #! value.return
    yield 1


def l() -> AsyncIterator[int]:  #! value.return
    yield 1

#. What a generator yields must fit.
from collections.abc import Generator, Iterator


def a() -> Iterator[int]:
    yield 1
    yield "one"  #! value.yield


def b() -> Generator[str, int, bool]:
    got = yield "x"
    got  #= int
    return 3  #! value.return


def c() -> Iterator[int]:
    yield from [1, 2]
    yield from ["one"]  #! value.yield

#. A `yield` within a lambda makes the lambda a generator, and not the function around.
def use() -> None:
    make = lambda: (yield 3)
    print(make)


def other() -> int:
    make = lambda: (yield 3)
    return "x"  #! value.return

#. A variable may be declared without a value, and takes only what fits then.
depth: int
depth = 3
depth = "three"  #! value.assign


def sound(deep: bool) -> None:
    name: str
    if deep:
        name = "deep"
    else:
        name = 3  #! value.assign
    print(name)

#. A name that is declared twice is declared to be one thing.
depth: int = 3
depth: int = 4


def sound() -> None:
    name: str = "x"
    name = 3  #! value.assign

#. The targets of loops, of `with` and of unpacking are assigned to, and declared names take only what fits.
class Spot:
    x: int = 0
    y: str = ""


def use(pairs: list[tuple[int, str]], spot: Spot) -> None:
    n: int
    for n in [1]:
        pass
    for n in ["a"]:  #! value.assign
        pass
    a: str
    b: str
    b, a = "x", "y"
    a, b = 1, "x"  #! value.assign
    spot.x, spot.y = pairs[0]
    spot.y, spot.x = pairs[0]  #! value.assign  #! value.assign
    [a, *_] = [1, 2]  #! value.assign
    c: int
    with open("log") as c:  #! value.assign
        pass
    for i, (c, d) in enumerate([("x", 1)]):  #! value.assign
        pass

#. What `x += y` gives must fit what `x` is declared to be.
class Gauge:
    level: int = 0


def use(n: int, m: int, xs: list[int], gauge: Gauge, sizes: dict[str, int]) -> None:
    n += 1
    n += 1.5  #! value.assign
    m /= 2  #! value.assign
    xs += [1]
    xs += ["a"]  #! value.assign
    gauge.level += 1
    gauge.level += 0.5  #! value.assign
    sizes["a"] += 1
    sizes["a"] += 0.5  #! value.item


def then(xs: list[int]) -> None:
    xs += [1]
    xs.extend([2])
    xs.extend(["a"])  #! call.argument

#. `float` takes an `int` as well, and `complex` both.
def sound(depth: float, phase: complex) -> None: ...


sound(3, 3)
sound(3.5, 3.5)
sound("3", 3)  #! call.argument
sound(3j, 3)  #! call.argument

#. A `bytearray` or `memoryview` is no `str`.
def send(data: bytes, text: str) -> None: ...


send(b"x", "x")
send("x", "x")  #! call.argument
send(b"x", b"x")  #! call.argument

#. `Annotated` is its first argument to whoever reads types; it needs another one.
from typing import Annotated

Metres = Annotated[int, "metres"]


def sound(depth: Metres, other: Annotated[str, 3, 4]) -> None:
    depth  #= int
    other  #= str


sound(3, "x")
sound("3", "x")  #! call.argument


def bare(depth: Annotated[int]) -> None: ...  #! annotation.form
def none(depth: Annotated) -> None: ...  #! annotation.form
def within(depth: list[Annotated[int, "m"]]) -> None: ...
def other(depth: Annotated[3, "m"]) -> None: ...  #! annotation.invalid

#. `Annotated` of a type is no class to be made or asked about.
#- falls short: the name stands for the class
from typing import Annotated

Metres = Annotated[int, "metres"]


def use(x: object, kind: type[int]) -> None: ...


use(3, int)
use(3, Metres)  #! call.argument
isinstance(3, Metres)  #! value.not-class

#. The type of `self` is the class around, that of `cls` the class itself; both may be annotated.
from typing import TypeVar, final

T = TypeVar("T", bound="Vessel")


@final
class Buoy:
    def name(self) -> str:
        self.nothing_like_it  #! member.absent
        return "x"


class Vessel:
    def itself(self: T) -> T:
        return self

    @classmethod
    def make(cls: type[T]) -> T:
        return cls()


class Ferry(Vessel): ...


Ferry().itself()  #= Ferry
Ferry.make()  #= Ferry

#. What a `def` is decorated with says what its name stands for.
from collections.abc import Callable


def quiet(f: Callable[[int], str]) -> Callable[[], int]:
    return lambda: 3


@quiet
def sound(depth: int) -> str:
    return "x"


sound()  #= int
sound(3)  #! call.surplus

#. Type comments say the same as annotations.
depth = 3  # type: int
depth = "x"  #! value.assign


def sound(deep, name):
    # type: (int, str) -> str
    return name


sound(3, "x")
sound("x", "x")  #! call.argument

#. An annotation that is evaluated late means what the module has, and not what the class binds further down.
from __future__ import annotations


class Fleet:
    def label(self) -> str: ...
    def names(self) -> list[str]: ...
    str = property(fget=lambda self: 3)


def use(fleet: Fleet) -> None:
    a: int = fleet.label()  #! value.assign
    b: list[str] = fleet.names()
