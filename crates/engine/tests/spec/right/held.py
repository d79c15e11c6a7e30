#- main.py
"""What containers hold that nobody declared, and what is left of values that go together."""
import os
from collections.abc import Iterable
from typing import Any, Literal, TypedDict, overload


class Row:
    def __len__(self):
        return 1


class Grid:
    def __init__(self):
        self.rows = [None]

    def fix(self):
        self.rows[0] = Row()

    def add(self, row):
        self.rows.append(row)

    def sizes(self):
        return [len(row) for row in self.rows]


def places(berth: str) -> list[str]:
    berths = [None, None]
    berths[0] = berth
    berths[1] = berth
    return [b.upper() for b in berths]


def best(items):
    top = [0.0, None]
    for item in items:
        top[:] = (1.0, item)
    if top[1] is None:
        raise ValueError
    return top[1]()


def kept(first: int) -> None:
    depths = [first, 3]
    depths[0:1] = [4]
    depths  #= list[int]


def pick(n: int):
    links = [{"a": 1} for _ in range(n)]
    link = links and links[0]
    if link:
        return link["a"]


def pick_not(n: int, words: list[str]):
    found = words or n
    if not found:
        found  #= int
    if found:
        found  #= list[str] | int


class Ref: ...


def members(nodes, known: Ref):
    for node in nodes:
        if isinstance(node, Ref):
            if "x" in node:
                pass
    "x" in known  #! operator.unsupported


class Con:
    name: int = 0


def named(c: Con | str, other: Con) -> None:
    if isinstance(c, Con):
        c = getattr(c, "name") or c
    getattr(other, "name", None)  #= unknown | None


def popped(port: int):
    conf = {"address": ("a", 1), "shutdown": None}
    return conf.pop("address")[-1]


def said(conf: dict[str, tuple[str, int] | None]) -> Any:
    return conf.pop("address")[-1]  #! none.index


def kinds(guild: bool) -> list[Literal[0, 1]]:
    found = []
    if guild:
        found.append(0)
    found.append(1)
    return found


def other_kinds(guild: bool) -> list[Literal[0, 1]]:
    found = []
    if guild:
        found.append(2)
    found.append(1)
    return found  #! value.return


def noop(file, mode=None):
    return file


COMPRESSIONS = {"none": noop}
DEPTHS = {"none": 3}


def register(name, callback):
    COMPRESSIONS[name] = callback


def opened(name: str, file):
    DEPTHS[name].upper()  #! member.absent
    return COMPRESSIONS[name](file, 3, 4)


class Callbacks:
    def __init__(self):
        self.callbacks = {}

    def add(self, key, number, callback):
        if key not in self.callbacks:
            self.callbacks[key] = {0: iter([1])}
        self.callbacks[key][number] = callback

    def trigger(self, key, number, data):
        callback = self.callbacks[key][number]
        callback(*data)


class Range(TypedDict):
    start: int
    end: int


def span(start, end):
    return {"start": start, "end": 3}


def mark(range: Range | None) -> None: ...


def marked(said: dict[str, int]) -> None:
    mark(span(1, 2))
    mark(said)  #! call.argument


if os.name == "nt":
    os.startfile("x")
else:
    os.fork()


class Template: ...


class Part: ...


class Whole: ...


@overload
def join(parts: Iterable[Template]) -> Template: ...
@overload
def join(parts: Iterable[Part | Whole]) -> Whole: ...
def join(parts: Iterable[Any]) -> Template | Whole:
    return Whole()


def joined(flag: bool) -> None:
    parts = [Part()]
    if flag:
        parts.append(Whole())
    join(parts)  #= Whole
