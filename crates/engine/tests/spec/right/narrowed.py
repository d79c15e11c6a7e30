#- main.py
"""Conditions that say more."""
import contextlib
from typing import TypeVar

T = TypeVar("T")


def pair(a: str | None, b: str | None) -> str:
    assert a is b is not None
    return a + b


def ordered(a: int | None, b: int) -> int:
    if 0 < b < 3:
        return a  #! value.return
    return 0


class Gate:
    note: str | None = None

    def check(self) -> bool:
        return False

    def run(self) -> None:
        self.note = None
        if not self.check():
            old = self.note
            assert self.note is old is not None
            self.note += "!"


class Leaf:
    def ask(self) -> bool:
        return True


def asked(x: type[BaseException] | Leaf) -> bool:
    if isinstance(x, type):
        return False
    return x.ask()


def show(s: str | None) -> None: ...


def shown(v: T | None) -> None:
    if v is None:
        show(v)


def stacked() -> int:
    with contextlib.ExitStack() as stack:
        stack.callback(print)
        return 1


def pairs(a: tuple[str, int] | tuple[int, bytes]) -> tuple[str, int]:
    if isinstance(a[0], int):
        a  #= tuple[int, bytes]
        return ("", 0)
    return a
