#= Statements

#. What is assigned fits what the name is declared to be.
n: int = 3
n = 4
n = "x"  #! value.assign


def use() -> None:
    s: str = "a"
    s = 3  #! value.assign

#. Each target of an assignment takes the value.
a: int
b: str
a = b = 3  #! value.assign
a = 4

#. Targets that are unpacked take their parts.
a: str
b: str
a, b = 1, "x"  #! value.assign
[a, b] = "x", "y"


class Spot:
    x: int = 0
    y: str = ""


def use(pairs: list[tuple[int, str]], spot: Spot) -> None:
    spot.x, spot.y = pairs[0]
    spot.y, spot.x = pairs[0]  #! value.assign  #! value.assign

#. Items are assigned to what takes them.
def use(xs: list[int], t: tuple[int], s: str, d: dict[str, int]) -> None:
    xs[0] = 3
    xs[0] = "x"  #! value.item
    t[0] = 3  #! index.unsupported
    s[0] = "x"  #! index.unsupported
    d[3] = 1  #! value.item
    d["a"] = 1

#. `x += y` puts back what fits.
def use(n: int, m: int, xs: list[int]) -> None:
    n += 1
    n += 1.5  #! value.assign
    m /= 2  #! value.assign
    xs += [1]
    xs += ["a"]  #! value.assign
    xs.extend(["a"])  #! call.argument

#. `x += y` needs an `x` that is no None, and operands that go together.
def use(n: int | None, s: str) -> None:
    n += 1  #! none.operand
    s += 3  #! operator.unsupported
    s += "x"

#. An augmented assignment of an attribute or an item puts back what fits.
class Vessel:
    berths: int = 3


def use(vessel: Vessel, xs: list[int]) -> None:
    vessel.berths += 1
    vessel.berths += 1.5  #! value.assign
    xs[0] += 1

#. `del` takes away items and attributes that can be taken away.
class Row:
    def __getitem__(self, i: int) -> int: ...


class Sheet:
    def __getitem__(self, i: tuple[int, int]) -> int: ...
    def __delitem__(self, i: int) -> None: ...


class Gauge:
    @property
    def depth(self) -> int: ...


def use(t: tuple[int, str], s: str, row: Row, sheet: Sheet, gauge: Gauge, xs: list[int]) -> None:
    del xs[0]
    del sheet[3]
    del t[0]  #! index.unsupported
    del s[0]  #! index.unsupported
    del row[0]  #! index.unsupported
    del sheet["a"]  #! index.unsupported
    del gauge.depth  #! member.readonly

#. `for` goes over what can be iterated.
class Helmet: ...


def use(n: int, o: object, h: Helmet, xs: list[int]) -> None:
    for x in xs: ...
    for x in n: ...  #! value.not-iterable
    for y in o: ...  #! value.not-iterable
    for z in h: ...  #! value.not-iterable

#. The old protocol of iteration goes by numbers from 0 on.
class Row:
    def __getitem__(self, i: int) -> str: ...


class Table:
    def __getitem__(self, key: str) -> int: ...


def use(row: Row) -> None:
    for cell in row:
        a: str = cell
        b: int = cell  #! value.assign

#. The target of a loop takes what comes.
def use(xs: list[str]) -> None:
    n: int
    s: str
    for n in xs: ...  #! value.assign
    for s in xs: ...

#. `async for` goes over what can be iterated so, and the plain loop over the rest.
from collections.abc import AsyncIterator


async def ticks() -> AsyncIterator[int]:
    yield 1


async def use() -> None:
    async for t in ticks():
        a: int = t
    for t in ticks(): ...  #! value.not-iterable
    async for u in [1]: ...  #! value.not-iterable

#. `with` enters what has `__enter__` and `__exit__`.
class Gate:
    def __enter__(self) -> int: ...
    def __exit__(self, *args: object) -> None: ...


class Half:
    def __enter__(self) -> int: ...


def use(gate: Gate, half: Half) -> None:
    with gate as n:
        a: int = n
        b: str = n  #! value.assign
    with half: ...  #! value.not-context-manager
    with 3: ...  #! value.not-context-manager

#. `async with` enters what has `__aenter__` and `__aexit__`.
class Gate:
    async def __aenter__(self) -> int: ...
    async def __aexit__(self, *args: object) -> None: ...


async def use(gate: Gate) -> None:
    async with gate as n:
        a: int = n
        b: str = n  #! value.assign
    with gate: ...  #! value.not-context-manager

#. `with` of several managers enters each.
class Gate:
    def __enter__(self) -> int: ...
    def __exit__(self, *args: object) -> None: ...


def use(gate: Gate) -> None:
    with gate as a, gate as b: ...
    with gate as a, 3 as b: ...  #! value.not-context-manager

#. `raise` raises exceptions.
class Puncture(Exception): ...
class Flat: ...


def right() -> None:
    raise Puncture("a") from ValueError()


def also() -> None:
    raise Puncture


def wrong() -> None:
    raise "flat"  #! value.not-exception


def other() -> None:
    raise Flat()  #! value.not-exception


def cause() -> None:
    raise Puncture() from "flat"  #! value.not-exception

#. `except` catches exceptions.
class Flat: ...


def use() -> None:
    try: ...
    except ValueError: ...
    except (KeyError, OSError): ...
    except Flat: ...  #! value.not-exception
    except 3: ...  #! value.not-exception

#. The name of a handler is of the classes that it catches.
def use() -> None:
    try: ...
    except OSError as error:
        a: OSError = error
        error.errno
    except (KeyError, ValueError) as error:
        b: KeyError | ValueError = error
        c: KeyError = error  #! value.assign

#. `except*` gives a group of what it catches.
def use() -> None:
    try: ...
    except* ValueError as group:
        group.exceptions
        a: ValueError = group  #! value.assign

#. A function that declares to give something gives it on every way.
def right(n: int) -> int:
    if n > 0:
        return 1
    raise ValueError


def wrong(n: int) -> int:  #! flow.missing-return
    if n > 0:
        return 1


def nothing(n: int) -> None:
    if n > 0:
        return

#. What is returned fits what is declared.
def right() -> int:
    return 3


def wrong() -> int:
    return "x"  #! value.return


def bare() -> int:
    return  #! value.return


def none() -> None:
    return 3  #! value.return

#. Code behind `return`, `raise`, `break` or `continue` is not reached.
def use() -> int:
    return 3
    print("never")  #! flow.unreachable


def right() -> int:
    print("once")
    return 3

#. A loop without an end that is not left does not end.
def right() -> int:
    while True:
        if input():
            return 3


def wrong() -> int:  #! flow.missing-return
    while True:
        if input():
            break

#. `try` may be left at any statement.
def use() -> None:
    try:
        name = open("log").read()
    except OSError:
        print(name)  #! name.unbound
    else:
        print(name)

#. `finally` runs on every way.
def right() -> int:
    try:
        return 3
    finally:
        print("done")


def wrong() -> int:  #! flow.missing-return
    try:
        print("x")
    finally:
        print("done")

#. `assert` is looked at, its message too.
def use(n: int) -> None:
    assert n > 0, "positive"
    assert n > "x"  #! operator.unsupported
    assert n, n.nowhere  #! member.absent

#. A class pattern gives no more by position than the class has.
class Plain: ...


class Leg:
    __match_args__ = ("port",)
    port: str = ""


def use(p: Plain, leg: Leg, n: int) -> None:
    match p:
        case Plain(a, c): ...  #! call.surplus
        case Plain(): ...
    match leg:
        case Leg(port, more): ...  #! call.surplus
        case Leg(port): ...
    match n:
        case int(m, k): ...  #! call.surplus
        case int(m): ...

#. A class that is derived from is a class.
class Vessel: ...
class Ferry(Vessel): ...


class A(3): ...  #! class.base
class B(Vessel()): ...  #! class.base
class C(int | str): ...  #! class.base
class D(Vessel, Vessel): ...  #! class.base
class E(None): ...  #! class.base

#. Bases go together in one order.
class A: ...
class B(A): ...
class Right(B, A): ...
class Wrong(A, B): ...  #! class.order

#. A decorator is an expression like any other.
import functools


@functools.cache
def right() -> int: ...


@functools.cahce  #! member.absent
def wrong() -> int: ...

#. A condition that is a function is always true.
def ready() -> bool: ...


def use() -> None:
    if ready(): ...
    if ready: ...  #! operator.condition

#. A `match` of several values is complete where the patterns take each combination.
from enum import Enum


class Tide(Enum):
    HIGH = 1
    LOW = 2


def draught(tide: Tide, laden: bool) -> int:
    match tide, laden:
        case Tide.HIGH, True:
            return 4
        case Tide.LOW, True:
            return 3
        case _, False:
            return 2


def depth(tide: Tide, laden: bool) -> int:  #! flow.missing-return
    match tide, laden:
        case Tide.HIGH, True:
            return 4
        case _, False:
            return 2


def fares(adult: int | None, child: int | None) -> int:
    match adult, child:
        case None, None:
            return 0
        case None, one:
            a: int = one
            return one
        case one, None:
            b: str = one  #! value.assign
            return one
        case one, other:
            return one + other
