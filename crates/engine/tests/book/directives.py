#= Type checker directives

#. `assert_type` says what an expression is, and is told where it is something else.
from typing import assert_type

n: int = 3
assert_type(n, int)
assert_type(n + 1.5, float)
assert_type(n, str)  #! assert.type

#. `reveal_type` tells what an expression is, and gives it back.
from typing import reveal_type


def use(n: int) -> None:
    a: int = reveal_type(n)  #! reveal.type
    b: str = reveal_type(n)  #! reveal.type  #! value.assign

#. These take just so many arguments.
from typing import assert_never, assert_type, cast, reveal_type

n: int = 3
assert_type(n, int)
assert_type(n)  #! call.missing
assert_type(n, int, str)  #! call.surplus
cast(int)  #! call.missing
cast(int, n, n)  #! call.surplus
reveal_type(n, n)  #! call.surplus

#. `cast` gives the type that is named, and looks at nothing.
from typing import cast

a: str = cast(str, 3)
b: str = cast("str", 3)
c: int = cast(str, 3)  #! value.assign

#. `cast` takes a type.
from typing import cast

cast(int, "x")
cast(3, "x")  #! annotation.invalid
cast([int], "x")  #! annotation.invalid

#. `assert_never` is told where something is left.
from typing import assert_never


def use(x: int | str) -> None:
    if isinstance(x, int): ...
    elif isinstance(x, str): ...
    else:
        assert_never(x)


def other(x: int | str) -> None:
    if isinstance(x, int): ...
    else:
        assert_never(x)  #! assert.never

#. `# type: ignore` hides what is found on its line.
a: int = "x"  # type: ignore
b: int = "x"  #! value.assign
c: int = "x"  # type: ignore[value.assign]

#. `# type: ignore` at the top of a file hides all of it.
import loud
import quiet

loud.depth
quiet.depth

#- loud.py
depth: int = "deep"  #! value.assign
#- quiet.py
# type: ignore
depth: int = "deep"

#. A comment that is nearly `# type: ignore` hides nothing.
a: int = "x"  # types: ignore  #! value.assign
b: int = "x"  # type: ignore

#. Under `@no_type_check` nothing is looked at, annotations and defaults included.
from typing import no_type_check


@no_type_check
def loose(a: "in millimetres", b: int = "x") -> {"y": 1}:
    a.nowhere
    return 3 + "x"


def tight(a: "in millimetres", b: int = "x") -> None: ...  #! annotation.invalid  #! value.default

#. What is under `TYPE_CHECKING` is looked at, and what is not, is not.
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    a: int = "x"  #! value.assign
else:
    b: int = "x"

#. Code for another version is not looked at.
import sys

if sys.version_info >= (3, 8):
    a: int = "x"  #! value.assign
else:
    b: int = "x"
if sys.version_info < (3, 0):
    c: int = "x"

#. Code for another platform is not looked at.
import sys

if sys.platform == "amiga":
    a: int = "x"
elif sys.platform.startswith("atari"):
    b: int = "x"
else:
    c: int = "x"  #! value.assign

#. `or` and `and` of such tests decide as far as they can.
import sys

if sys.version_info >= (3, 8) and sys.platform == "amiga":
    a: int = "x"
if sys.version_info >= (3, 8) or sys.platform == "amiga":
    b: int = "x"  #! value.assign

#. What is deprecated is told where it is used.
from warnings import deprecated


@deprecated("gone soon")
def ring() -> None: ...


@deprecated("gone soon")
class Bell: ...


ring()  #! deprecated.use
Bell()  #! deprecated.use
call = ring  #! deprecated.use
print(call)

#- python 3.13

#. What is deprecated is told where it is imported.
from old import hoist, pump  #! deprecated.use

hoist()

#- old.py
from warnings import deprecated


@deprecated("gone soon")
def pump() -> None: ...
def hoist() -> None: ...

#- python 3.13

#. Deprecated methods, properties and operators are told.
from warnings import deprecated


class Vessel:
    @deprecated("gone soon")
    def sink(self) -> None: ...

    @property
    @deprecated("gone soon")
    def length(self) -> int: ...

    @deprecated("gone soon")
    def __add__(self, other: int) -> int: ...

    def __sub__(self, other: int) -> int: ...


def use(vessel: Vessel) -> None:
    vessel.sink()  #! deprecated.use
    vessel.length  #! deprecated.use
    vessel + 1  #! deprecated.use
    vessel - 1

#- python 3.13

#. Of overloads, only those that are marked are deprecated.
from typing import overload
from warnings import deprecated


class Vessel:
    @overload
    @deprecated("give a size")
    def __init__(self) -> None: ...
    @overload
    def __init__(self, size: int) -> None: ...
    def __init__(self, size: int = 0) -> None: ...


@overload
@deprecated("give a number")
def read(x: str) -> str: ...
@overload
def read(x: int) -> int: ...
def read(x): ...


Vessel(3)
Vessel()  #! deprecated.use
read(3)
read("x")  #! deprecated.use

#- python 3.13
