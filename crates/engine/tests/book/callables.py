#= Callables

#. A call gives each parameter that has no default.
def moor(berth: int, line: str, late: bool = False) -> None: ...


moor(3, "bow")
moor(3)  #! call.missing
moor()  #! call.missing
moor(3, line="bow")

#. A call gives no more than is taken by position.
def moor(berth: int) -> None: ...


moor(3)
moor(3, 4)  #! call.surplus

#. A call names only parameters that there are.
def moor(berth: int, **lines: str) -> None: ...
def land(berth: int) -> None: ...


moor(berth=3, bow="x")
land(bert=3)  #! call.keyword

#. A parameter is given once.
def moor(berth: int) -> None: ...


moor(3, berth=4)  #! call.repeated
moor(berth=3)

#. Parameters before `/` are given by position, those after `*` by name.
def moor(berth: int, /, line: str, *, late: bool = False) -> None: ...


moor(3, "bow", late=True)
moor(3, line="bow")
moor(berth=3, line="bow")  #! call.keyword
moor(3, "bow", True)  #! call.surplus

#. Names that begin with two underscores are given by position, as of old.
def moor(__berth: int, line: str) -> None: ...


moor(3, line="bow")
moor(__berth=3, line="bow")  #! call.keyword

#. `*args` takes any number of arguments of its type.
def gather(*berths: int) -> None: ...


gather()
gather(1, 2, 3)
gather(1, "two")  #! call.argument
gather(*[1, 2])
gather(*["a"])  #! call.argument

#. `**kwargs` takes any names with values of its type.
def label(**texts: str) -> None: ...


label(bow="a", stern="b")
label(bow=3)  #! call.argument

#. What is unpacked by `*` fits the parameters that it may reach.
def crate(weight: int, label: str) -> None: ...
def named(**k: int) -> None: ...
def first(name: str, *rest: int) -> None: ...


def use(xs: list[int], ss: list[str]) -> None:
    crate(*(1, "x"))
    crate(*(1, "x", 3))  #! call.surplus
    crate(*ss)  #! call.argument
    crate(1, *xs)  #! call.argument
    first(*xs)  #! call.argument
    named(*[1])  #! call.surplus
    crate(*3)  #! value.not-iterable

#. What is unpacked by `**` is a mapping from texts, whose values fit.
from collections.abc import Mapping


def tyres(**sizes: int) -> None: ...
def one(*, size: int) -> None: ...


def use(s: dict[str, str], n: dict[int, int], m: Mapping[str, int]) -> None:
    tyres(**m)
    tyres(**s)  #! call.argument
    tyres(**n)  #! value.not-mapping
    tyres(**3)  #! value.not-mapping
    one(**s)  #! call.argument
    tyres(**{"a": "x"})  #! call.argument

#. The items of a typed dictionary that is unpacked fit by name.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    adult: int
    child: NotRequired[str]


def right(adult: int, child: str = "") -> None: ...
def wrong(adult: str, child: str = "") -> None: ...
def fewer(child: str = "") -> None: ...


def use(fare: Fare) -> None:
    right(**fare)
    wrong(**fare)  #! call.argument
    fewer(**fare)  #! call.keyword

#. `**kwargs: Unpack[…]` takes the items of a typed dictionary by name.
from typing import NotRequired, TypedDict, Unpack


class Opts(TypedDict):
    size: int
    name: NotRequired[str]


def make(**opts: Unpack[Opts]) -> None: ...


make(size=3)
make(size=3, name="x")
make(name="x")  #! call.missing
make(size="x")  #! call.argument
make(size=3, more=4)  #! call.keyword

#. `Unpack` behind `**` takes a typed dictionary, and none of its keys is a parameter besides.
from typing import TypedDict, Unpack


class Opts(TypedDict):
    size: int


class Plain: ...


def right(name: str, **opts: Unpack[Opts]) -> None: ...
def twice(size: int, **opts: Unpack[Opts]) -> None: ...  #! annotation.form
def plain(**opts: Unpack[Plain]) -> None: ...  #! annotation.form
def placed(size: int, /, **opts: Unpack[Opts]) -> None: ...

#. `*args: *tuple[…]` takes just these.
def spot(*at: *tuple[int, str]) -> None: ...


spot(3, "x")
spot("x", 3)  #! call.argument
spot(3)  #! call.missing

#. `Callable` takes a list of parameters, or dots, and a result.
from collections.abc import Callable


def right(f: Callable[[int, str], bool], g: Callable[..., bool], h: Callable) -> None: ...
def a(f: Callable[int]) -> None: ...  #! annotation.form
def b(f: Callable[int, str]) -> None: ...  #! annotation.form
def c(f: Callable[[int, ...], str]) -> None: ...  #! annotation.form
def d(f: Callable[[int], str, int]) -> None: ...  #! annotation.form

#. A `Callable` is called by position.
from collections.abc import Callable


def use(f: Callable[[int, str], bool]) -> None:
    a: bool = f(3, "x")
    f(3)  #! call.missing
    f("x", 3)  #! call.argument
    f(3, "x", 4)  #! call.surplus
    b: str = f(3, "x")  #! value.assign

#. `Callable[..., T]` is called with anything.
from collections.abc import Callable


def use(f: Callable[..., int]) -> None:
    a: int = f()
    b: int = f(1, x=2)
    c: str = f()  #! value.assign

#. A function fits a callable that passes what it takes and expects what it gives.
from collections.abc import Callable


def wants(f: Callable[[int], float]) -> None: ...
def right(x: float) -> int: ...
def takes(x: str) -> int: ...
def gives(x: int) -> str: ...
def more(x: int, y: int) -> int: ...
def fewer() -> int: ...
def optional(x: int, y: int = 0) -> int: ...


wants(right)
wants(optional)
wants(takes)  #! call.argument
wants(gives)  #! call.argument
wants(more)  #! call.argument
wants(fewer)  #! call.argument

#. A bound method fits without its object.
from collections.abc import Callable


class Horn:
    def blow(self, n: int) -> int: ...


def wants(f: Callable[[int], int]) -> None: ...


wants(Horn().blow)
wants(Horn.blow)  #! call.argument

#. A class fits as what makes its objects.
from collections.abc import Callable


class Vessel:
    def __init__(self, name: str) -> None: ...


def wants(f: Callable[[str], Vessel]) -> None: ...
def other(f: Callable[[int], Vessel]) -> None: ...


wants(Vessel)
other(Vessel)  #! call.argument

#. An object with `__call__` fits as that does.
from collections.abc import Callable


class Bell:
    def __call__(self, n: int) -> str: ...


def wants(f: Callable[[int], str]) -> None: ...
def other(f: Callable[[str], str]) -> None: ...


wants(Bell())
other(Bell())  #! call.argument
Bell()(3)
Bell()("x")  #! call.argument

#. An async function gives a coroutine.
from collections.abc import Awaitable, Callable


async def fetch() -> int: ...


a: Callable[[], Awaitable[int]] = fetch
b: Callable[[], int] = fetch  #! value.assign

#. A lambda takes the types that are expected of it.
from collections.abc import Callable

a: Callable[[int], int] = lambda n: n + 1
b: Callable[[int], str] = lambda n: n + 1  #! value.assign
c: Callable[[str], int] = lambda s: s.nowhere()  #! member.absent
d: Callable[[], list[float]] = lambda: [1]

#. A function without annotations fits any callable that it can be called as.
from collections.abc import Callable


def loose(a, b=0): ...
def wants(f: Callable[[int], str]) -> None: ...
def three(f: Callable[[int, int, int], str]) -> None: ...


wants(loose)
three(loose)  #! call.argument

#. `functools.partial` leaves the other parameters.
from functools import partial


def moor(berth: int, line: str) -> bool: ...


bow = partial(moor, 3)
a: bool = bow("bow")
bow(4)  #! call.argument
partial(moor, "x")  #! call.argument

#. A decorator is called with what it decorates.
from collections.abc import Callable
from contextlib import contextmanager


def ints(f: Callable[[int], int]) -> Callable[[int], int]: ...


@ints
def right(a: int) -> int: ...


@ints  #! call.argument
def text(a: str) -> int: ...


@3  #! call.not-callable
def number() -> None: ...


@contextmanager  #! call.argument
def no_generator() -> int: ...

#. What a decorator gives is what the name stands for.
from collections.abc import Callable


def text(f: Callable[[int], int]) -> Callable[[int], str]: ...


@text
def depth(x: int) -> int: ...


a: str = depth(3)
b: int = depth(3)  #! value.assign

#. What is no function, class or object with `__call__` cannot be called.
import math

n = 3


class Vessel: ...


n()  #! call.not-callable
"x"()  #! call.not-callable
Vessel()()  #! call.not-callable
math()  #! call.not-callable
(1, 2)()  #! call.not-callable
Vessel()

#. What may be None is not called without a test.
from collections.abc import Callable


def use(f: Callable[[], int] | None) -> None:
    f()  #! none.call
    if f is not None:
        f()

#. A call of one of several types must be right for each.
class Horn:
    def play(self, n: int | str) -> None: ...


class Bell:
    def play(self, n: int) -> None: ...


def use(x: Horn | Bell, y: list[int] | list[str]) -> None:
    x.play(3)
    x.play("loud")  #! call.argument
    y.append(1)  #! call.argument

#. Functions and methods have no operators, items or iteration of their own.
class Horn:
    def blow(self, n: int) -> int: ...


def toot(h: Horn) -> int:
    h.blow + 1  #! operator.unsupported
    h.blow.volume  #! member.absent
    toot[0]  #! index.unsupported
    for x in toot: ...  #! value.not-iterable
    list(toot)  #! call.overload
    -toot  #! operator.unsupported
    toot.__name__
    return 1

#. A method without parameters is called with its object all the same.
class Bell:
    def ring():
        return 1

    @staticmethod
    def sound():
        return 2


Bell().ring()  #! call.surplus
Bell.ring()
Bell().sound()

#. A coroutine that is not awaited does not run.
async def fetch() -> int: ...


async def use() -> None:
    await fetch()
    fetch()  #! call.unawaited

#. The result of a call that nothing is returned from is None.
def moor(berth: int) -> None: ...


a: None = moor(3)
b: int = moor(3)  #! value.assign
moor(3).bit_length  #! none.member
