#- main.py
"""More that is right as it stands in code of others, beside neighbours that are not."""
import codecs
import csv
import html
import pathlib
import re
import signal
import socket
from collections.abc import Callable, Iterable, Sequence
from enum import Enum
from http.server import BaseHTTPRequestHandler
from typing import Any, Generic, Literal, Protocol, Self, TypeGuard, TypeVar, cast, dataclass_transform, overload
from xml.etree.ElementTree import TreeBuilder, XMLParser, parse

from typing_extensions import Buffer


class Ferry:
    @classmethod
    def load(cls, given: object) -> "Ferry":
        return cls()

    def get(self, name: str) -> str:
        return name


def settled(ferry: str | tuple[str, ...]) -> None:
    ferry = Ferry.load(ferry)  #! value.assign
    ferry.get("tide")
    ferry.set("tide")  #! member.absent


def families(pairs: Sequence[tuple[Literal[socket.AddressFamily.AF_INET], str]]) -> None: ...


families([(socket.AF_INET, "1.1.1.1")])
families([(socket.AF_UNIX, "1.1.1.1")])  #! call.argument
signal.signal(signal.SIGINT, signal.SIG_DFL)


@overload
def private(default: Any, *, init: Literal[False] = False) -> Any: ...
@overload
def private(*, init: Literal[False] = False) -> Any: ...
def private(default: Any = None, *, init: Literal[False] = False) -> Any: ...


def public(default: Any = None) -> Any: ...


@dataclass_transform(field_specifiers=(private, public))
class Model:
    pass


class Fare(Model):
    kept: int = private()
    price: int = public()


Fare(price=3)
Fare(kept=3)  #! call.keyword


def write(path: pathlib.Path, data: Buffer) -> None:
    path.write_bytes(data)
    path.write_bytes("tide")  #! class.protocol


class Series:
    def __ne__(self, other: object) -> Self:
        return self

    def any(self) -> bool:
        return True


SeriesT = TypeVar("SeriesT", bound=Series)


def differ(one: SeriesT, other: SeriesT) -> bool:
    (one == other).any()  #! member.absent
    return (one != other).any()


def encoded(text: str) -> bytes:
    data, _ = codecs.getencoder("utf-8")(text)
    codecs.getencoder("utf-8")(3)  #! call.argument
    return data


class Wrapped(Generic[SeriesT]):
    asks: Callable[[Any], TypeGuard[Series]] = staticmethod(lambda value: True)

    def each(self, value: Series | Iterable[int]) -> bool:
        if self.asks(value):
            return True
        return False

    is_series: Callable[[Any], TypeGuard[Series]] = staticmethod(lambda value: True)

    def first(self, value: Series | list[int]) -> bool:
        value.any()  #! member.absent
        if self.is_series(value):
            return value.any()
        return False


class Parent: ...


Held = TypeVar("Held", bound="Nullable", covariant=True)


class Listed(Parent, Generic[Held]):
    items: list[int] = []


Nullable = Ferry | Listed


def inner(given: Parent | None) -> Listed[Any] | None:
    held: Parent | Ferry | None
    held = cast("Listed", given)
    print(held.items)
    return None


def old():
    try:
        char = unichr
    except:
        char = chr
    print(xrange)  #! name.undefined
    return char


class Own(csv.DictWriter):
    def __init__(self, file):
        csv.DictWriter.__init__(self, file, [])
        self.writer = Ferry()


class Handler(BaseHTTPRequestHandler):
    def handle(self):
        self.close_connection = 1
        self.close_connection = 2  #! value.assign


def quoted(text):
    return html.escape(str(text), 1)


def quoted_well(text: str) -> str:
    return html.escape(text, 1)  #! call.argument


def rooted(source):
    root = parse(source, parser=XMLParser(target=TreeBuilder())).getroot()
    root.find_tides()
    parse(source).getroot().find_tides()  #! member.absent


def linked(page, link=None):
    if link is None:
        links = [each for each in page]
        link = links and links[0]
    if link:
        return link["href"]


class Opener:
    def open(self, url):
        return url

    def close(self):
        self.open = None

    def again(self):
        return self.open("x")


class Matching:
    def _matching(self, number, start=0):
        if start is None:
            return None
        for each in self.tokens:
            if each:
                return start, each
        return None, None

    def next_by(self, kind=None, start=-1):
        start += 1
        return self._matching(kind, start)

    def previous(self, start):
        return self._matching(3, start)

    def use(self, start):
        _, one = self.next_by(3)
        _, other = self.previous(3)
        third = self._matching(3, None)[1]  #! none.index
        return one, other, third


def refreshed(text):
    at = text.find(";")
    key = None
    if at != -1:
        key, url = text[:at], text[at + 1 :]
    if key is None or key != "url":
        raise ValueError
    return url  #! name.correlated


def expired(expires):
    if expires is False:
        date = 3
    elif isinstance(expires, str):
        date = 4
    if expires is True:
        return 0
    return date  #! name.correlated


def open_way(expires):
    if expires is False:
        date = 3
    print(expires is True)
    return date  #! name.maybe-unbound


class Kind(Enum):
    ONE = 1
    TWO = 2

    def other(self) -> "Literal[Kind.TWO]":
        return Kind.TWO

    def names(self) -> list[str]:
        return Kind._member_names_ + Kind._member_nomes_  #! member.absent
#- later.py
from __future__ import annotations

from enum import Enum
from typing import Literal


class Kind(Enum):
    ONE = 1
    TWO = 2

    def other(self) -> Literal[Kind.TWO]:
        return Kind.TWO

    def none(self) -> Literal[Knot.TWO]: ...  #! name.undefined
#- declared.py
import functools
from collections.abc import Mapping, Sequence
from decimal import Decimal
from typing import Any, Final, Literal, NoReturn, NotRequired, Optional, TypeVar

Amount = TypeVar("Amount", Decimal, int, float)
Side = Literal["port", "starboard"]


def plain(least: Amount, most: Amount) -> Amount: ...


def bounded(least: Amount | None, most: Amount | None) -> None:
    if least is not None and most is not None:
        plain(least=least, most=most)


def moor(side: Side) -> None: ...


class Mooring:
    def __init__(self, side: Side = "port", other: Optional[Side] = None, last: Side = "port", name: str = "") -> None:
        self.side = side
        self.other = other or last
        self.fixed: Final = side
        self.name = name

    def go(self, upright: bool) -> None:
        moor(self.side)
        moor(self.other)
        moor(self.fixed)
        moor(self.name)  #! call.argument
        side = self.side if upright else self.other
        moor(side)


def options(given: Mapping[str, Any] | None = None) -> None:
    given = dict(given or {})
    given.setdefault("a", 1)


class Slotted:
    __slots__ = ("name", "depth")

    def __init__(self, name, depth):
        put = object.__setattr__.__get__(self)
        put("name", name)

    def again(self):
        new = self
        return new.name


print([each.depth for each in [Slotted(1, 2)]])
print([each.width for each in [Slotted(1, 2)]])  #! member.absent


class Failing:
    def __call__(self, text: str) -> NoReturn: ...


fail: Failing = Failing()


def popped(text: str) -> int:
    if text:
        return 3
    fail(text)


def told(one: object, other: str | int, sign: str) -> None:
    match one, sign, other:
        case str(), "x", str():
            print(one.upper(), other.upper())
        case (int(), *_, int()) if sign:
            print(one + 1, other + 1)
        case _:
            print(other.upper())  #! member.absent


def kind() -> type: ...


made = kind()(1)
made.anything
cached: functools._lru_cache_wrapper[int]
hints: dict[str, Any] = {}
hints["a"] = NotRequired[int]
#- private.py
import argparse
from typing import Callable, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")


class Parser(argparse.ArgumentParser):
    def groups(self):
        other = self
        print(other._action_groups, other.action_tides)  #! member.absent


def checked(call: Callable[P, R], *args: P.args, **kwargs: P.kwargs) -> R:
    return call(*args, **kwargs)


def write(path, mode):
    checked(open, path, mode).write(b"tide")
    checked(len, "tide").write(b"tide")  #! member.absent


print(staticmethod(len).__wrapped__)
