#- main.py
"""What attributes hold around loops, what methods give each other, `Self` within other classes, and parameters that stay open."""
from __future__ import annotations

import argparse
import sys
from collections.abc import Coroutine, Generator, Iterable, Iterator
from contextlib import contextmanager
from typing import Any, Callable, Generic, Literal, ParamSpec, Self, TypeVar, cast

P = ParamSpec("P")
G = TypeVar("G")
T = TypeVar("T")


class Node:
    is_leaf: bool
    child: Node
    children: list[Node]

    def walk(self, *, include: bool = True) -> Generator[Self, None, None]:
        if include:
            yield self
        for child in self.children:
            yield from child.walk(include=True)

    def itself(self) -> Self:
        return self

    @contextmanager
    def point(self) -> Iterator[Self]:
        x = self.itself()
        yield x

    @classmethod
    def first(cls, v: Any) -> Self:
        return next(iter(cast("Iterable[Self]", v)))

    @classmethod
    def some(cls, v: Any) -> list[Self | None]:
        found: list[Self | None] = []
        found.append(cls.first(v))
        found.append(None)
        found.append(3)  #! call.argument
        return found


class Cursor:
    def __init__(self) -> None:
        self.node: Node | None = None
        self.parents: list[tuple[Node, int]] = []

    def down(self) -> None:
        assert self.node is not None
        while not self.node.is_leaf:
            self.parents.append((self.node, 0))
            self.node = self.node.children[0]
        self.node  #= Node

    def lost(self) -> None:
        assert self.node is not None
        while True:
            self.node.child  #! none.member
            self.node = None

    def again(self, flag: bool) -> None:
        self.node = Node()
        for _ in range(3):
            self.node.child
            if flag:
                self.reset()
        self.node.child

    def reset(self) -> None:
        self.parents = []


# What starts as None and another method gives a value.
class Line:
    def __init__(self):
        self.sock = None
        self.name = None
        self.asked = None

    def open(self, path):
        self.sock = open(path)
        self.name = path.upper() if path else ""
        self.asked = open(path)

    def read(self):
        return self.sock.read()  #! none.correlated "another method gives it a value"

    def close(self):
        if self.sock is not None:
            self.sock.close()

    def write(self, text):
        self.sock.write(text)  #! none.correlated

    def ask(self):
        if self.asked:
            return self.asked.read()

    def forget(self):
        return self.asked.read()  #! none.member


# `...` stands for whatever parameters.
class Command(Generic[G, P, T]):
    def go(self) -> None:
        told(self)
        c: Command[Any, ..., Any] | None = self


def told(c: Command[Any, ..., Any] | int) -> None: ...


def run(aw: Coroutine) -> None: ...


async def sail() -> bool:
    return True


run(sail())


def version(v: tuple[int, int, int, str, int]) -> None: ...


version(sys.version_info[:5])
sys.version_info[:2]  #= tuple[int, int]


def outer() -> int:
    result: int

    def inner() -> None:
        nonlocal result
        result = 3

    inner()
    return result


class Options(argparse.Namespace):
    verbose: int


class Parser(argparse.ArgumentParser):
    pass


def parsed(parser: Parser) -> None:
    parser.parse_known_args(None, namespace=Options())  #= tuple[Options, list[str]]
    parser.parse_args()  #= Namespace
    parser.add_subparsers().add_parser("x")  #= Parser


# What is asked for by `getattr` is not said to be anything.
class Fields:
    selections: tuple[int, ...] = ()


def wanted(names: list[str]) -> None: ...


def pick(f: Fields) -> None:
    wanted(getattr(f, "selections", []))


# What leaves exceptions alone.
class Wrapped:
    def __enter__(self):
        return self

    def __exit__(self, kind, value, trace):
        if kind is not None:
            raise ValueError(str(value)) from value
        return False


def whole(path: str) -> str:
    with Wrapped():
        return path.upper()


# A `__new__` that gives what is there.
class Unskin:
    def __new__(cls, *args):
        return args[0].skin


Unskin(3).update


class Handler:
    def __init__(self):
        self.nodes = [Fields()]

    def push(self, node):
        self.nodes.append(node)

    def pop(self):
        return self.nodes.pop()

    def end(self):
        return self.pop().charbuffer


# What is false by its own word, and classes in the place of others.
class Omit:
    def __bool__(self) -> Literal[False]:
        return False


def streamed(stream: bool | Omit) -> None:
    stream or False  #= Literal[True, False]


class Binding: ...


class CurveBinding(Binding):
    @classmethod
    def register(cls) -> None: ...


class Key:
    binding: type[Binding]


class CurveKey(Key):
    binding = CurveBinding

    @classmethod
    def of(cls) -> None:
        cls.binding.register()


class Sorted:
    def __new__(cls, key=None):
        if key is None:
            return object.__new__(cls)
        return object.__new__(SortedBy)


class SortedBy(Sorted):
    def irange(self): ...


Sorted(3).irange


class Box(Generic[T]):
    def __init__(self, kind: type[T] | None = None) -> None: ...


def boxed(kind: type[T]) -> Box[T]:
    box: Box[T] = Box()
    return box


tides = None
try:
    import tides
except ImportError:
    pass

if tides:

    def high():
        return tides.high()


# What is read in a loop that gives it another value: asking what it is comes to an end.
def decoded(text: str | bytes, encodings: list[str]) -> str:
    if isinstance(text, bytes):
        for encoding in encodings:
            try:
                text = text.decode(encoding)  #! member.absent
            except UnicodeDecodeError:
                pass
    return str(text)
