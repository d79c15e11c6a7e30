#- main.py
"""Objects, their classes, and what their attributes take."""
from typing import Any, Generic, TypeVar

T = TypeVar("T")


class Node:
    @property
    def _maker(self):
        return self.__class__

    def maker(self):
        return type(self)


class Twig(Node):
    size = 0

    def dup(self) -> "Twig":
        return self._maker()

    def twice(self) -> "Twig":
        return self.maker()()


class Board:
    def join(self) -> "Board":
        return self


class lazy(Generic[T]):
    def __get__(self, obj: Any, cls: Any) -> T: ...


class Conn:
    board: lazy[Board]

    def __init__(self) -> None:
        self.board = self.board.join()
        self.board = 3  #! value.assign


class Reg:
    def __init__(self) -> None:
        self.m: dict[str, object] = {}

    def find(self, n: str):
        got: object | None = self.m.get(n)
        return got


def use(r: Reg) -> None:
    c = r.find("a")
    if c:
        c.stop()


class Shelf:
    def __delitem__(self, k: str) -> None: ...


def emptied(s: Shelf, row: list[int]) -> None:
    del s["a"]
    s["a"]  #! index.unsupported
    del row["a"]  #! index.unsupported


class Pier:
    def berths(self):
        return 3

    def _kind(self):
        return Pier

    def twice(self):
        return self.berths()

    def another(self):
        return self._kind()()


class Quay(Pier):
    def berths(self):
        return "three"

    def _kind(self):
        return Quay

    def length(self):
        return 40

    def other(self):
        return self.another().length()


Pier().twice()  #= int
Quay().twice()  #= str
