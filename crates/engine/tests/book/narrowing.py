#= Type narrowing

#. A test for None leaves the rest.
def use(x: int | None) -> None:
    if x is None:
        a: None = x
    else:
        b: int = x
    c: int = x  #! value.assign

#. A truth test leaves what is true.
def use(x: int | None, s: str | None) -> None:
    if x:
        a: int = x
    if not s:
        b: str = s  #! value.assign

#. `isinstance` leaves the parts of the class.
def use(x: int | str | bytes) -> None:
    if isinstance(x, str):
        a: str = x
    elif isinstance(x, (int, bytes)):
        b: int | bytes = x
        c: int = x  #! value.assign

#. `isinstance` takes `X | Y` and nested tuples.
def use(x: int | str | bytes | None) -> None:
    if isinstance(x, int | str):
        a: int | str = x
    elif isinstance(x, (bytes, (float, type(None)))):
        b: bytes | None = x
    if not isinstance(x, type(None)):
        c: int | str | bytes = x
        d: int = x  #! value.assign

#. `isinstance` with a class below leaves that class.
class Vessel: ...
class Ferry(Vessel):
    decks: int = 2


def use(x: Vessel) -> None:
    x.decks  #! member.absent
    if isinstance(x, Ferry):
        x.decks

#. `isinstance` keeps the type arguments that are known.
from collections.abc import Sequence


def use(x: Sequence[int]) -> None:
    if isinstance(x, list):
        a: list[int] = x
        b: list[str] = x  #! value.assign

#. `isinstance(x, type)` leaves classes.
def use(x: type[int] | str) -> None:
    if isinstance(x, type):
        a: type[int] = x
    else:
        b: str = x
        c: int = x  #! value.assign

#. `issubclass` leaves the classes below.
class Vessel: ...
class Ferry(Vessel): ...
class Quay: ...


def use(x: type[Vessel] | type[Quay]) -> None:
    if issubclass(x, Vessel):
        a: type[Vessel] = x
        b: type[Quay] = x  #! value.assign
    else:
        c: type[Quay] = x

#. `callable` leaves what can be called.
from collections.abc import Callable
from typing import final


@final
class Spoke: ...


class Horn:
    def __call__(self) -> int: ...


def use(x: int | Callable[[], int], y: Spoke | Horn) -> None:
    if callable(x):
        a: int = x()
    else:
        b: int = x
    if callable(y):
        c: Horn = y
        d: Spoke = y  #! value.assign

#. `type(x) is C` leaves the class; of a final class, the others otherwise.
from typing import final


@final
class Spoke: ...


class Rim: ...


def use(x: Spoke | Rim) -> None:
    if type(x) is Spoke:
        a: Spoke = x
    else:
        b: Rim = x
        c: Spoke = x  #! value.assign

#. `==` narrows literals, enumerations and None.
from typing import Literal


def use(x: Literal["a", "b"] | None) -> None:
    if x == "a":
        a: Literal["a"] = x
    elif x == None:
        b: None = x
    else:
        c: Literal["b"] = x
        d: Literal["a"] = x  #! value.assign

#. `in` a tuple of literals leaves those.
from typing import Literal


def use(x: Literal["a", "b", "c"]) -> None:
    if x in ("a", "b"):
        a: Literal["a", "b"] = x
    else:
        b: Literal["c"] = x
        c: Literal["a"] = x  #! value.assign

#. A tag that is a literal tells which of several classes it is.
from typing import Literal


class Road:
    kind: Literal["road"] = "road"
    width: int = 3


class Trail:
    kind: Literal["trail"] = "trail"
    slope: float = 0.1


def use(x: Road | Trail) -> None:
    if x.kind == "road":
        x.width
        x.slope  #! member.absent
    else:
        x.slope

#. A condition that is left by `return`, `raise` or `continue` holds no more behind it.
def use(x: int | None, xs: list[int | None]) -> int:
    if x is None:
        return 0
    for y in xs:
        if y is None:
            continue
        a: int = y
    b: None = x  #! value.assign
    return x

#. `assert` narrows what follows.
def use(x: int | None) -> int:
    b: int = x  #! value.assign
    assert x is not None
    return x

#. `and`, `or` and `not` narrow their operands.
def use(x: str | None, y: str | None) -> None:
    x is not None and x.upper()
    x is None or x.upper()
    if x is not None and y is not None:
        x + y
    if not (x is None or y is None):
        x + y
    if x is not None or y is not None:
        x.upper()  #! none.member

#. A conditional expression narrows its branches.
def use(x: str | None) -> None:
    a: str = x if x is not None else ""
    b: str = x if x is None else ""  #! value.assign

#. An assignment narrows to what is assigned.
def use(x: int | str) -> None:
    x = 3
    a: int = x
    x = "a"
    b: str = x
    c: int = x  #! value.assign

#. A number that is assigned narrows to its class, unless literals are declared.
from typing import Literal, assert_type


class Vessel:
    berths: int = 3


def use(vessel: Vessel, n: int, side: Literal["a", "b"]) -> None:
    vessel.berths = 4
    assert_type(vessel.berths, int)
    n = 3
    assert_type(n, int)
    side = "a"
    assert_type(side, Literal["a"])
    assert_type(side, str)  #! assert.type

#. A write that is refused changes nothing of what is declared.
class Vessel:
    berths: int = 3

    @property
    def length(self) -> float: ...
    @length.setter
    def length(self, v: float) -> None: ...


def use(vessel: Vessel) -> None:
    vessel.berths = "three"  #! value.assign
    vessel.berths += 1
    vessel.length = "long"  #! value.assign
    vessel.length += 1.5

#. Attributes and items are narrowed as names are.
class Vessel:
    name: str | None = None


def use(vessel: Vessel, names: dict[str, str | None]) -> None:
    if vessel.name is not None:
        vessel.name.upper()
    vessel.name.upper()  #! none.member
    if names["a"] is not None:
        names["a"].upper()

#. A call may change an attribute that was narrowed.
class Vessel:
    name: str | None = None

    def rename(self) -> None:
        self.name = None


def use(vessel: Vessel) -> None:
    if vessel.name is not None:
        a: str = vessel.name
        vessel = Vessel()
        b: str = vessel.name  #! value.assign

#. `:=` narrows the name that it binds.
def find() -> str | None: ...


def use() -> None:
    if (name := find()) is not None:
        name.upper()
    if other := find():
        other.upper()
    name.upper()  #! none.member

#. A function that gives `TypeGuard` tells what its argument is where it is true.
from typing import TypeGuard


def is_texts(x: list[object]) -> TypeGuard[list[str]]: ...


def use(x: list[object]) -> None:
    if is_texts(x):
        a: list[str] = x
    else:
        b: list[str] = x  #! value.assign

#. A function that gives `TypeIs` tells it in both cases.
#- python 3.13
from typing import TypeIs


def is_text(x: object) -> TypeIs[str]: ...


def use(x: int | str) -> None:
    if is_text(x):
        a: str = x
    else:
        b: int = x
        c: str = x  #! value.assign

#. `TypeGuard` and `TypeIs` tell of a parameter besides the object.
#- python 3.13
from typing import TypeGuard, TypeIs


def nothing() -> TypeGuard[int]: ...  #! annotation.place
def named(*, x: object) -> TypeIs[int]: ...  #! annotation.place


class Checks:
    def wrong(self) -> TypeGuard[int]: ...  #! annotation.place
    def right(self, x: object) -> TypeGuard[int]: ...

    @staticmethod
    def fine(x: object) -> TypeIs[int]: ...

#. `TypeIs` names what is within the parameter's type.
#- python 3.13
from typing import TypeGuard, TypeIs


def right(x: int | str) -> TypeIs[str]: ...
def wrong(x: int) -> TypeIs[str]: ...  #! annotation.form
def other(x: int) -> TypeGuard[str]: ...

#. A function that tells gives a truth value.
from typing import TypeGuard


def right(x: object) -> TypeGuard[int]:
    return isinstance(x, int)


def wrong(x: object) -> TypeGuard[int]:
    return "yes"  #! value.return

#. What tells is no plain truth value where a callable is asked for.
#- python 3.13
from collections.abc import Callable
from typing import TypeGuard, TypeIs


def is_int(x: object) -> TypeIs[int]: ...
def is_bool(x: object) -> TypeIs[bool]: ...
def guards_bool(x: object) -> TypeGuard[bool]: ...
def plain(x: object) -> bool: ...
def wants(f: Callable[[object], TypeIs[int]]) -> None: ...
def guards(f: Callable[[object], TypeGuard[int]]) -> None: ...
def truth(f: Callable[[object], bool]) -> None: ...


wants(is_int)
wants(is_bool)  #! call.argument
wants(plain)  #! call.argument
guards(guards_bool)
guards(is_int)  #! call.argument
truth(is_int)

#. A callable that tells narrows as a function does.
#- python 3.13
from collections.abc import Callable
from typing import TypeIs


def use(x: int | str, is_text: Callable[[object], TypeIs[str]]) -> None:
    if is_text(x):
        a: str = x
    else:
        b: int = x
        c: str = x  #! value.assign

#. Patterns narrow their subject.
def use(x: int | str | None) -> None:
    match x:
        case None:
            a: None = x
        case int():
            b: int = x
        case _:
            c: str = x
            d: int = x  #! value.assign

#. A capture is of what the pattern matched.
class Leg:
    __match_args__ = ("port", "hours")
    port: str
    hours: int


def use(x: Leg | list[int], pair: tuple[int, str]) -> None:
    match x:
        case Leg(port, hours=h):
            a: str = port
            b: int = h
            c: int = port  #! value.assign
        case [first, *rest]:
            d: int = first
            e: list[int] = rest
        case _: ...
    match pair:
        case (n, s):
            f: int = n

#. A mapping pattern captures what is at its keys.
def use(x: dict[str, int]) -> None:
    match x:
        case {"a": value, **rest}:
            a: int = value
            b: dict[str, int] = rest
            c: str = value  #! value.assign

#. A pattern with `|` captures what any of its alternatives matches.
def use(x: tuple[int, str] | list[str]) -> None:
    match x:
        case (int(n), _):
            a: int = n
        case [str(m)] | [_, str(m)]:
            b: str = m
            c: int = m  #! value.assign
        case _: ...

#. A match over all that there is needs no other case.
from typing import assert_never


def right(x: int | str) -> int:
    match x:
        case int():
            return 1
        case str():
            return 2


def also(x: int | str) -> int:
    match x:
        case int():
            return 1
        case _:
            assert_never(x)  #! assert.never

#. A loop's condition holds in its body, and its opposite behind it.
class Node:
    next: "Node | None" = None


def use(node: Node | None) -> None:
    while node is not None:
        node.next
        node = node.next
    a: None = node
    b: Node = node  #! value.assign

#. A name that a function inside changes is not narrowed there.
def use(x: int | None) -> None:
    if x is None:
        return

    def later() -> int:
        return x  #! value.return

    x = None

#. A name that is not bound again keeps what was found in lambdas and comprehensions.
def use(x: int | None, xs: list[int]) -> None:
    if x is not None:
        f = lambda: x + 1
        [x + y for y in xs]
    else:
        x + 1  #! operator.unsupported

#. `hasattr` leaves what may have the attribute.
from typing import final


@final
class Spoke: ...


class Rim:
    width: int = 3


def use(x: Spoke | Rim) -> None:
    if hasattr(x, "width"):
        x.width
    x.width  #! member.absent

#. `bool(x)` narrows as a truth test does.
def use(x: int | None) -> None:
    if bool(x):
        a: int = x
    else:
        b: int = x  #! value.assign

#. Two conditions that go together narrow to both.
class Named:
    name: str = ""


class Sized:
    size: int = 0


def use(x: Named) -> None:
    if isinstance(x, Sized):
        x.name
        x.size
    x.size  #! member.absent

#. `Any` is narrowed by what it is found to be.
from typing import Any


def use(x: Any) -> None:
    if isinstance(x, int):
        a: int = x
        b: str = x  #! value.assign
    if x is None:
        c: None = x
