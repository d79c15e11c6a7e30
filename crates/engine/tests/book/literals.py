#= Literals

#. `Literal` takes what is written out: numbers, texts, bytes, truth values, members of enumerations, None.
from enum import Enum
from typing import Literal


class Side(Enum):
    PORT = 1


name = "x"


def right(a: Literal[3, -3, "a", b"a", True, None, Side.PORT]) -> None: ...
def a(x: Literal[3.5]) -> None: ...  #! annotation.form
def b(x: Literal[1 + 2]) -> None: ...  #! annotation.form
def c(x: Literal[name]) -> None: ...  #! annotation.form
def d(x: Literal[int]) -> None: ...  #! annotation.form
def f(x: Literal[[1]]) -> None: ...  #! annotation.form
def g(x: Literal[3j]) -> None: ...  #! annotation.form
def h(x: Literal[f"a"]) -> None: ...  #! annotation.form
def i(x: Literal) -> None: ...  #! annotation.form

#. A literal type takes its own value only.
from typing import Literal


def moor(side: Literal["port"]) -> None: ...


moor("port")
moor("starboard")  #! call.argument


def use(side: str) -> None:
    moor(side)  #! call.argument

#. A value of a literal type is one of its class.
from typing import Literal


def use(side: Literal["port"], n: Literal[3]) -> None:
    a: str = side
    b: int = n
    c: int = side  #! value.assign

#. Literals of several values take each of them.
from typing import Literal


def moor(side: Literal["port", "starboard"]) -> None: ...


def use(one: Literal["port"], three: Literal["port", "bow"]) -> None:
    moor(one)
    moor(three)  #! call.argument

#. Literals nest and are joined.
from typing import Literal

Side = Literal["port", "starboard"]
Place = Literal[Side, "bow"]


def moor(place: Place) -> None: ...


moor("bow")
moor("port")
moor("stern")  #! call.argument

#. `True` is no `1`, and `"a"` no `b"a"`.
from typing import Literal


def use(yes: Literal[True], one: Literal[1], text: Literal["a"]) -> None:
    a: Literal[1] = one
    b: Literal[1] = yes  #! value.assign
    c: Literal[b"a"] = text  #! value.assign

#. A name that is bound to a literal once keeps it where it is a constant.
from typing import Literal

SIDE = "port"


def moor(side: Literal["port"]) -> None: ...


moor(SIDE)
OTHER = "bow"
moor(OTHER)  #! call.argument

#. A list of literals holds their class, unless more is asked for.
from typing import Literal

sides = ["port", "starboard"]
asked: list[Literal["port"]] = ["port"]
wrong: list[Literal["port"]] = ["bow"]  #! value.assign
a: list[str] = sides

#. Comparing with `==` narrows literals.
from typing import Literal, assert_never


def use(side: Literal["port", "starboard"]) -> None:
    if side == "port":
        a: Literal["port"] = side
    else:
        b: Literal["starboard"] = side
        c: Literal["port"] = side  #! value.assign

#. A truth test narrows literals.
from typing import Literal


def use(n: Literal[0, 1]) -> None:
    if n:
        a: Literal[1] = n
    else:
        b: Literal[1] = n  #! value.assign

#. A `bool` is `Literal[True, False]`.
from typing import Literal


def either(x: Literal[True, False]) -> None: ...
def yes(x: Literal[True]) -> None: ...


def use(flag: bool) -> None:
    either(flag)
    yes(flag)  #! call.argument

#. An index that is a literal tells which item of a tuple is meant.
from typing import Literal


def use(t: tuple[int, str], i: Literal[1]) -> None:
    a: str = t[i]
    b: int = t[i]  #! value.assign

#. A key that is a literal tells which item of a typed dictionary is meant.
from typing import Literal, TypedDict


class Fare(TypedDict):
    adult: int
    name: str


def use(fare: Fare, key: Literal["adult"], either: Literal["adult", "name"]) -> None:
    a: int = fare[key]
    b: str = fare[key]  #! value.assign
    c: int | str = fare[either]

#. Overloads are told apart by literals.
from typing import Literal, overload


@overload
def read(mode: Literal["r"]) -> str: ...
@overload
def read(mode: Literal["rb"]) -> bytes: ...
def read(mode: str) -> str | bytes: ...


a: str = read("r")
b: str = read("rb")  #! value.assign
read("w")  #! call.overload

#. A literal beside its class in a union says nothing more.
from typing import Literal, assert_type


def use(xs: list[int], n: int | Literal[0]) -> None:
    assert_type(sum(xs), int)
    assert_type(n, int)
    assert_type(n, str)  #! assert.type

#. Negative numbers are written out as well.
from typing import Literal


def down(x: Literal[-1]) -> None: ...


down(-1)
down(1)  #! call.argument

#. Quoted texts in `Literal` are values and no types.
from typing import Literal


def kind(x: Literal["int", "Vessel"]) -> None: ...


kind("int")
kind("Vessel")
kind(3)  #! call.argument
