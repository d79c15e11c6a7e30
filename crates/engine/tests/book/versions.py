#= Versions of the language

#. Template strings give templates, and not texts (3.14).
from string.templatelib import Interpolation, Template


def render(x: Template) -> str:
    for part in x:
        a: str | Interpolation = part
        b: str = part  #! value.assign
    return ""


name = "Selkie"
render(t"hello {name}")
render(f"hello {name}")  #! call.argument
t"a {nowhere}"  #! name.undefined
t"a" + t"b"
t"a" + "b"  #! operator.unsupported

#- python 3.14

#. Annotations are evaluated late (3.14), and may speak of what comes later.
def right(x: Later) -> Later: ...
def wrong(x: Never_) -> None: ...  #! name.undefined


class Later: ...

#- python 3.14

#. Before 3.14, annotations are evaluated where they stand.
def wrong(x: Later) -> None: ...  #! name.unbound


class Later: ...


def right(x: Later) -> None: ...

#- python 3.13

#. `except` takes several classes without parentheses (3.14).
def use() -> None:
    try: ...
    except ValueError, KeyError: ...
    except OSError, 3: ...  #! value.not-exception

#- python 3.14

#. Before 3.14, several classes stand in parentheses.
def use() -> None:
    try: ...
    except ValueError, KeyError: ...  #! syntax.error

#- python 3.13

#. `annotationlib` and `compression` are there (3.14).
import annotationlib
import compression.zstd

a: dict[str, object] = annotationlib.get_annotations(print)
b: bytes = compression.zstd.compress(b"x")
c: str = compression.zstd.compress(b"x")  #! value.assign

#- python 3.14

#. Before 3.14, `annotationlib` is not there.
import annotationlib  #! import.unresolved
import inspect

#- python 3.13

#. Type parameters have defaults (3.13).
class Row[T = int]: ...
class Wrong[T: str = int]: ...  #! generic.definition

#- python 3.13

#. Before 3.13, type parameters have no defaults in brackets.
class Row[T = int]: ...  #! syntax.error
class Plain[T]: ...

#- python 3.12

#. `warnings.deprecated` is there (3.13).
from warnings import deprecated


@deprecated("gone soon")
def ring() -> None: ...


ring()  #! deprecated.use

#- python 3.13

#. Before 3.13, `warnings.deprecated` is not there.
from warnings import deprecated  #! import.unresolved
from warnings import warn

#- python 3.12

#. Classes, functions and aliases list their type parameters in brackets (3.12).
class Row[T]:
    def first(self) -> T: ...


type Rows[T] = list[Row[T]]


def use(rows: Rows[int]) -> None:
    a: int = rows[0].first()
    b: str = rows[0].first()  #! value.assign

#- python 3.12

#. Before 3.12, there are no brackets behind names of classes.
class Row[T]: ...  #! syntax.error
class Plain: ...

#- python 3.11

#. `typing.override` is there (3.12).
from typing import override


class Vessel:
    def moor(self) -> None: ...


class Ferry(Vessel):
    @override
    def moor(self) -> None: ...
    @override
    def mor(self) -> None: ...  #! class.override

#- python 3.12

#. Before 3.12, `typing.override` is not there.
from typing import override  #! import.unresolved
from typing import final

#- python 3.11

#. F-strings take the quotes that stand around them (3.12).
name = "Selkie"
f"{"a" + name}"
f"{"a" + 3}"  #! operator.unsupported

#- python 3.12

#. `except*`, `Self` and `tomllib` are there (3.11).
import tomllib
from typing import Self


class Vessel:
    def copy(self) -> Self: ...


def use() -> None:
    try: ...
    except* ValueError as group:
        a: ValueError = group  #! value.assign

#- python 3.11

#. Before 3.11, `Self` and `tomllib` are not there.
import tomllib  #! import.unresolved
from typing import Self  #! import.unresolved
from typing import Protocol

#- python 3.10

#. `match` and `X | Y` as a value are there (3.10).
Number = int | float


def use(n: Number) -> str:
    match n:
        case int():
            return n  #! value.return
        case float():
            return "float"

#- python 3.10

#. Before 3.10, `|` between classes is no value.
Number = int | float  #! operator.unsupported


def right(n: "int | float") -> None: ...

#- python 3.9
#- falls short: a union of classes counts as a value in every version

#. Before 3.10, there is no `match`.
def use(n: int) -> None:
    match n:  #! syntax.error
        case 3: ...

#- python 3.9

#. Classes of the library take their arguments in brackets (3.9).
def use(xs: list[int], d: dict[str, int]) -> None:
    xs[0].nowhere  #! member.absent
    d["a"]

#- python 3.9

#. `str.removeprefix` and `zoneinfo` are there (3.9).
import zoneinfo

"a".removeprefix("a")
"a".removefix("a")  #! member.absent

#- python 3.9

#. Before 3.9, `str.removeprefix` and `zoneinfo` are not there.
import zoneinfo  #! import.unresolved

"a".removeprefix("a")  #! member.absent
"a".lstrip("a")

#- python 3.8

#. Names are bound within expressions, and parameters given by position only (3.8).
def use(a: int, /, xs: list[int]) -> None:
    if (n := len(xs)) > 3:
        n + a
    n + "x"  #! operator.unsupported


use(1, xs=[2])
use(a=1, xs=[2])  #! call.keyword

#- python 3.8

#. Members of the library are there in the versions that have them.
import math

math.lcm(2, 3)
math.cbrt(3.0)  #! member.absent

#- python 3.10
