#- other.py
class Rack:
    label: str = ""


def paint(r: Rack) -> None:
    r.label = "red"


def mark(thing) -> None:
    thing.chalked = True
#- main.py
"""Values that are used as what they cannot be: hashed, asked about, formatted, spread into calls, given by special methods."""
import os
from collections.abc import AsyncIterator, Callable, Hashable, Iterator, Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Any, Literal, NewType, Protocol, Self, TypedDict, assert_type, overload, runtime_checkable


# Attributes that others assign.
class Bell:
    def ring(self) -> int:
        return 1


def restore(o: object, names: list[str]) -> None:
    for n in names:
        setattr(o, n, 1)


def use(b: Bell, turns: int) -> None:
    turns.label  #! member.absent
    (turns + 1).label  #! member.absent
    b.label  #! member.absent
    b.chalked
    b.ringg_twice  #! member.absent
    turns.whatever  #! member.absent


class Crane:
    def lift(self) -> None:
        self.lower_again()  #! member.absent
        self.hoist()
        self.ring()


class Tall(Crane):
    def hoist(self) -> None: ...


class Template:
    def load(self) -> None:
        self.load_by_subclasses_elsewhere()


Tall().lift()


# Arguments behind stars.
def crate(weight: int, label: str) -> None: ...
def named(**k: int) -> None: ...
def first(name: str, *rest: int) -> None: ...
def one(*, size: int) -> None: ...


class Load(TypedDict):
    weight: int
    label: str


class Odd(TypedDict):
    weight: int
    colour: str


def spread(xs: list[int], ss: list[str], both: list[int | str], load: Load, odd: Odd) -> None:
    crate(*(1, "x"))
    crate(*(1, "x", 3))  #! call.surplus
    crate(*ss)  #! call.argument
    crate(1, *xs)  #! call.argument
    crate(*both)
    crate(*xs, label="x")
    first(*xs)  #! call.argument
    first(*ss, 3)  #! call.argument
    named(*[1])  #! call.surplus
    crate(*3)  #! value.not-iterable
    crate(**load)
    crate(**odd)  #! call.keyword
    crate(**{"weight": 1, "label": 2})  #! call.argument


def mapped(s: dict[str, str], n: dict[int, int], m: Mapping[str, int], u: dict[str, Any]) -> None:
    named(**s)  #! call.argument
    named(**n)  #! value.not-mapping
    named(**m)
    named(**3)  #! value.not-mapping
    one(**s)  #! call.argument
    one(**u)
    named(**{"a": "x"})  #! call.argument


def on(**kwargs: str) -> None:
    named(**kwargs)  #! call.argument


# Loops.
class Helmet: ...


async def ticks() -> AsyncIterator[int]:
    yield 1


async def fetch() -> int:
    return 1


def give(h: Helmet) -> Iterator[int]:
    yield from h  #! value.not-iterable value.yield


async def wait(n: int, o: object) -> None:
    for t in ticks():  #! value.not-iterable "it can by `async for`"
        pass
    async for u in [1]:  #! value.not-iterable
        pass
    for y in o:  #! value.not-iterable
        pass
    print([*n])  #! value.not-iterable
    print(*n)  #! value.not-iterable
    await fetch  #! value.not-awaitable
    await fetch()


# Hashes.
@dataclass
class Bike:
    gears: int


@dataclass(frozen=True)
class Fixed:
    gears: int


class Kept(Bike):
    def __hash__(self) -> int:
        return 3


a: Hashable = Bike(3)  #! class.protocol
b: Hashable = [1]  #! class.protocol
c: Hashable = Fixed(3)
{[1]: 2}  #! value.unhashable
{[1], (2, [3])}  #! value.unhashable  #! value.unhashable
{(1, 2): 3, Fixed(3): 4, Kept(3): 5}
{Bike(3)}  #! value.unhashable
{*[1, 2]}


# What isinstance is asked about.
class Open(Protocol):
    def open(self) -> None: ...


@runtime_checkable
class Named(Protocol):
    name: str


Size = NewType("Size", int)


def asked(o: object, k: type[object], kinds: tuple[type, ...]) -> None:
    isinstance(o, "int")  #! value.not-class
    isinstance(o, 3)  #! value.not-class
    isinstance(o, list[int])  #! value.not-class "has arguments"
    isinstance(o, (int, list[int]))  #! value.not-class
    isinstance(o, Open)  #! value.not-class "runtime_checkable"
    issubclass(k, Named)  #! value.not-class "no method"
    isinstance(o, Named)
    isinstance(o, Size)  #! value.not-class "NewType"
    isinstance(o, Load)  #! value.not-class "typed dictionary"
    isinstance(o, int | str)
    isinstance(o, int | None)
    isinstance(o, kinds)
    isinstance(o, k)


# Texts that are formatted.
def formatted(p: str, n: int, xs: list[int], d: dict[str, str]) -> None:
    "%d" % p  #! value.format "`%d` takes a number, and not `str`"
    "%s %s" % p  #! value.format "takes 2 values, 1 given"
    "%s" % (p, n)  #! value.format
    "%(a)s" % {"b": 1}  #! value.format "a value `a`"
    "%(a)s" % p  #! value.format
    "%(a)s" % d
    "{} {}".format(p)  #! value.format
    "{:d}".format(p)  #! value.format
    "{name}".format(nam=1)  #! value.format
    "%s" % xs
    "plain" % p  #! value.format
    "plain" % d
    "%x" % 1.5  #! value.format
    "%-10s|%5.1f|%%|%r" % (p, n, xs)
    "{0} {1!r} {name:>10}".format(p, n, name=p)
    "{0.real} {1[0]:d}".format(n, xs)
    "{}".format(*xs)


# What special methods give.
class Coded:
    def __init__(self) -> int: ...  #! class.special-result
    def __str__(self):  #! class.special-result "`Coded.__str__` gives `bytes`"
        return b"x"

    def __len__(self):  #! class.special-result
        return "x"

    def __repr__(self):
        raise NotImplementedError

    def __bool__(self):
        return self.unsure


class Tray(list[Self]): ...  #! annotation.place


class Puncture: ...


def flat() -> None:
    raise Puncture()  #! value.not-exception


# Constructors.
class Bicycle:
    def __new__(cls, name: str) -> int:
        return 3

    def __init__(self, never: bytes) -> None: ...


assert_type(Bicycle("x"), int)
Bicycle(b"x")  #! call.argument


@dataclass
class Base:
    x: int

    def __init__(self, **values: Any) -> None: ...


@dataclass
class Sub(Base):
    y: str


class Plain(Base): ...


Sub(1, "a")
Plain(y=3)
Base(1)  #! call.surplus


def tuples(xs: list[float]) -> None:
    assert_type(tuple(xs), tuple[float, ...])


# Signatures.
class Hue(Enum):
    RED = 1
    BLUE = 2


@overload
def ring(loud: Literal[True]) -> int: ...
@overload
def ring(loud: Literal[False]) -> str: ...
def ring(loud: bool) -> int | str:
    return 1


@overload
def mix(h: Literal[Hue.RED]) -> int: ...
@overload
def mix(h: Literal[Hue.BLUE]) -> str: ...
def mix(h: Hue) -> int | str:
    return 1


@overload
def pair(t: tuple[int, int]) -> int: ...
@overload
def pair(t: tuple[int, str]) -> str: ...
def pair(t: tuple[int, int | str]) -> int | str:
    return 1


def called(b: bool, h: Hue, t: tuple[int, int | str], m: Mapping[str, str]) -> None:
    ring(b)  #= int | str
    mix(h)  #= int | str
    pair(t)  #= int | str
    m.get("a", "")  #= str
    m.get("a", 3)  #= str | int
    m.get("a")  #= str | None
    os.environ.get("A", "").nope  #! member.absent


# Lambdas.
class Node:
    ok = True


f1: Callable[[int], str] = lambda n: n + 1  #! value.assign
f2: Callable[[Node], bool] = lambda n: n.nope  #! member.absent
f3: Callable[[], list[float]] = lambda: [1]
f4: dict[str, Callable[[Node], bool]] = {"a": lambda n: n.nope}  #! member.absent
f5: list[Callable[[Node], bool]] = [lambda n: n.nope, lambda n: n.ok]  #! member.absent
f6: Callable[..., str] = lambda n, m: n.anything


def given() -> Callable[[Node], bool]:
    return lambda n: n.nope  #! member.absent


def taken(k: Callable[[Node], bool] = lambda n: n.nope) -> None: ...  #! member.absent


class Held:
    on_change: Callable[[Node], bool]

    def __init__(self) -> None:
        self.on_change = lambda n: n.nope  #! member.absent


# Assignments that do not fit change nothing.
class Geared:
    gears: int = 3

    @property
    def size(self) -> float:
        return 1.0

    @size.setter
    def size(self, v: float) -> None: ...


def shift(b: Geared, d: dict[str, int]) -> None:
    b.gears = "three"  #! value.assign
    b.gears += 1
    b.size = "big"  #! value.assign
    b.size += 1.5
    d[3] = 1  #! value.item
    del d[3]  #! index.unsupported


# Order.
def ordered(xs: list[int | str], ns: list[float | int], key: dict[str, int]) -> None:
    sorted([1, "a"])  #! operator.unsupported "`<` does not go with `int` and `str`"
    max(1, "a")  #! operator.unsupported
    min([3, None])  #! operator.unsupported
    sorted(xs)  #! operator.unsupported
    sorted(ns)
    sorted([1, 2.0, True])
    sorted([1, "a"], key=str)
    sorted(key)
