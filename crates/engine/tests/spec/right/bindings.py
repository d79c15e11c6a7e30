#- main.py
"""A name keeps to what it is declared, whatever binds it; a comment that silences does not change it."""
import ast
from typing import Any, Literal

Mode = Literal["plain", "packed"]


def first(words: dict[str, int], rows: Any) -> None:
    v: list[int]
    for k, v in words.items():  # type: ignore
        v  #= list[int]
    berth: str | None
    berth, depth = rows
    berth  #= str


def swap(kw: ast.keyword, names: dict[str, str]) -> None:
    kw.value = names["a"]  # type: ignore
    ast.dump(kw.value)


def need(mode: Mode | None) -> None: ...


def loads(freights: list[int]) -> None:
    mode: Mode | None = None
    for freight in freights:
        if freight > 1:
            mode = "packed"
    need(mode)


def counted(freights: list[int]) -> None:
    number = 0
    for freight in freights:
        number += 1
    number  #= int
