#- main.py
"""Values that are used as what they cannot be, and those that may be."""
from collections.abc import AsyncIterator, Iterator


class Helmet: ...


class Half:
    def __enter__(self) -> int:
        return 1


class Later:
    async def __aenter__(self) -> int:
        return 1

    async def __aexit__(self, *a: object) -> None: ...


def gears(pair: tuple[int, str], n: int, maybe: tuple[int, int] | None, rest: tuple[int, ...]) -> None:
    low, mid, high = pair  #! value.unpack "2 values, for 3 names"
    (only,) = pair  #! value.unpack
    a, b = n  #! value.not-iterable
    for x, y, z in [pair]:  #! value.unpack
        pass
    c, d = 1, 2, 3  #! value.unpack
    e, f = maybe  #! none.iteration
    first, *others = pair
    one, two, three, *more = pair  #! value.unpack "at least 3 names"
    (g, h), i = pair, 3
    j, (k, l) = n, (1, 2, 3)  #! value.unpack
    m, o = rest
    p, q = "ab"


def loops(h: Helmet, n: int, o: object) -> None:
    for x in n:  #! value.not-iterable
        pass
    for y in o:  #! value.not-iterable
        pass
    [z for z in h]  #! value.not-iterable


async def ticks() -> AsyncIterator[int]:
    yield 1


async def wait(n: int) -> None:
    for t in ticks():  #! value.not-iterable
        pass
    await n  #! value.not-awaitable
    await wait(1)


def enter(h: Half, l: Later) -> None:
    with h:  #! value.not-context-manager "__exit__"
        pass
    with l:  #! value.not-context-manager "async with"
        pass
    with 3 as n:  #! value.not-context-manager
        pass
    with open("x"):
        pass


def fails(reason: str, error: Exception) -> None:
    try:
        raise reason  #! value.not-exception
    except "x":  #! value.not-exception
        raise error
    except (ValueError, KeyError):
        raise ValueError
    except int:  #! value.not-exception
        raise ValueError(reason) from error


def pairs(rows):
    for row in rows:
        name, _ = row
    return name  #! name.maybe-unbound
