#= Tuples

#. `tuple[A, B]` has just these elements.
def use(pair: tuple[int, str]) -> None:
    a: int = pair[0]
    b: str = pair[1]
    c: str = pair[0]  #! value.assign
    pair[2]  #! index.range
    pair[-1]
    pair[-3]  #! index.range


x: tuple[int, str] = (3, "x")
y: tuple[int, str] = (3,)  #! value.assign
z: tuple[int, str] = ("x", 3)  #! value.assign

#. `tuple[A, ...]` has any number of elements of one type.
def use(row: tuple[int, ...]) -> None:
    a: int = row[5]
    b: str = row[0]  #! value.assign


x: tuple[int, ...] = ()
y: tuple[int, ...] = (1, 2, 3)
z: tuple[int, ...] = (1, "x")  #! value.assign

#. `tuple[()]` is empty.
x: tuple[()] = ()
y: tuple[()] = (1,)  #! value.assign

#. Dots stand behind one type only.
def right(x: tuple[int, ...]) -> None: ...
def a(x: tuple[...]) -> None: ...  #! annotation.form
def b(x: tuple[int, str, ...]) -> None: ...  #! annotation.form
def c(x: tuple[..., int]) -> None: ...  #! annotation.form

#. A tuple of any length is none of a known length.
def use(row: tuple[int, ...], pair: tuple[int, int]) -> None:
    a: tuple[int, ...] = pair
    b: tuple[int, int] = row  #! value.assign

#. A tuple is covariant in its elements.
def use(pair: tuple[int, bool]) -> None:
    a: tuple[float, int] = pair
    b: tuple[str, int] = pair  #! value.assign

#. An unpacked tuple is part of another.
def use(x: tuple[int, *tuple[str, ...]], y: tuple[int, *tuple[str, bytes]]) -> None:
    a: int = x[0]
    b: str = x[1]
    c: bytes = y[2]
    d: int = x[1]  #! value.assign
    e: str = y[2]  #! value.assign

#. A tuple has one part of any length at most.
def right(x: tuple[int, *tuple[str, ...], int]) -> None: ...
def wrong(x: tuple[*tuple[int, ...], *tuple[str, ...]]) -> None: ...  #! annotation.form

#. Tuples are put together by `+`.
def use(x: tuple[int, str]) -> None:
    a: tuple[int, str, bytes] = x + (b"x",)
    b: tuple[int, str, int] = x + (b"x",)  #! value.assign

#. A slice of a tuple is the tuple of what it takes.
def use(x: tuple[int, str, bytes]) -> None:
    a: tuple[int, str] = x[:2]
    b: tuple[str, bytes] = x[1:]
    c: tuple[int, bytes] = x[1:]  #! value.assign

#. As many names as elements take a tuple apart.
def use(pair: tuple[int, str], n: int, maybe: tuple[int, int] | None) -> None:
    low, high = pair
    low, mid, high = pair  #! value.unpack
    (only,) = pair  #! value.unpack
    a, b = n  #! value.not-iterable
    c, d = 1, 2, 3  #! value.unpack
    e, f = maybe  #! none.iteration

#. A starred name takes what is left.
def use(x: tuple[int, str, str], y: tuple[int]) -> None:
    first, *rest = x
    a: int = first
    b: list[str] = rest
    c: list[int] = rest  #! value.assign
    one, two, *more = y  #! value.unpack

#. Loops and nested targets take tuples apart as well.
def use(pairs: list[tuple[int, str]], deep: tuple[int, tuple[str, bytes]]) -> None:
    for a, b in pairs: ...
    for x, y, z in pairs: ...  #! value.unpack
    n, (s, t) = deep
    n, (s, t, u) = deep  #! value.unpack
    [k for k, v in pairs]

#. Tuples take no items.
def use(pair: tuple[int, str]) -> None:
    pair[0] = 3  #! index.unsupported
    del pair[0]  #! index.unsupported
    own = (1, 2)
    own[0] = 3  #! index.unsupported
    rows = [1, 2]
    rows[0] = 3

#. `tuple(iterable)` is a tuple of any length.
def use(xs: list[float]) -> None:
    a: tuple[float, ...] = tuple(xs)
    b: tuple[float] = tuple(xs)  #! value.assign
    c: tuple[str, ...] = tuple(xs)  #! value.assign

#. The length of a tuple narrows unions of tuples.
def use(x: tuple[int] | tuple[int, str]) -> None:
    if len(x) == 2:
        a: str = x[1]
    else:
        x[1]  #! index.range

#. An index that may be one of several gives what may be there.
from typing import Literal


def use(t: tuple[int, str, bytes], i: Literal[0, 1]) -> None:
    a: int | str = t[i]
    b: int = t[i]  #! value.assign

#. A class that derives from a tuple has its elements.
class Spot(tuple[int, str]): ...


def use(spot: Spot) -> None:
    a: int = spot[0]
    b: str = spot[0]  #! value.assign
    x, y = spot
    x, y, z = spot  #! value.unpack

#. Bare `tuple` is one of anything.
def use(row: tuple) -> None:
    a: int = row[0]
    b, c = row
    row.nowhere  #! member.absent

#. Iterating a tuple gives its elements.
def use(pair: tuple[int, str]) -> None:
    for part in pair:
        a: int | str = part
        b: int = part  #! value.assign

#. Tuples are compared with tuples.
def use(pair: tuple[int, str]) -> None:
    pair < (1, "x")
    pair == 3
    pair < 3  #! operator.unsupported
