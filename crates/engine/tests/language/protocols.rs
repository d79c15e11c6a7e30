//! Protocols (PEP 544; typing specification, "Protocols").

use super::holds;

#[test]
fn overloaded_members_are_compared() {
    holds(
        r#"
from typing import Generic, Protocol, TypeVar, overload

T = TypeVar("T")
K = TypeVar("K")
T_co = TypeVar("T_co", covariant=True)


class Table(Generic[T]):
    @overload
    def column(self, kind: None = None) -> "Table[T]": ...
    @overload
    def column(self, kind: K) -> "Table[K]": ...
    def column(self, kind: object = None) -> object:
        raise NotImplementedError


class HasColumn(Protocol[T_co]):
    def column(self) -> Table[T_co]: ...


def first(table: HasColumn[T]) -> T:
    raise NotImplementedError


def read(names: Table[str]) -> None:
    first(names)  #= str
    right: HasColumn[str] = names
    wrong: HasColumn[int] = names  #! class.protocol "of its `column`"
"#,
    );
}

#[test]
fn methods_that_take_what_implements_them() {
    holds(
        r#"
from typing import Protocol, TypeVar

T = TypeVar("T")


class Sums(Protocol):
    def __add__(self: T, other: T, /) -> T: ...
    def __neg__(self: T, /) -> T: ...


class Berth:
    def __add__(self, other: int, /) -> "Berth":
        return self

    def __neg__(self) -> "Berth":
        return self


def total(number: int, length: float, berth: Berth) -> None:
    one: Sums = number
    two: Sums = length
    three: Sums = berth  #! class.protocol "of its `__add__`"
"#,
    );
}

#[test]
fn other_arguments_say_which_signature_stands_for_a_method() {
    holds(
        r#"
from typing import Protocol, TypeVar, overload

A = TypeVar("A")
R = TypeVar("R")
A_contra = TypeVar("A_contra", contravariant=True)
R_co = TypeVar("R_co", covariant=True)


class Joins(Protocol[A_contra, R_co]):
    def join(self, other: A_contra, /) -> R_co: ...


class Route:
    @overload
    def join(self, other: "Leg", /) -> "Route": ...
    @overload
    def join(self, other: str, /) -> list[str]: ...
    def join(self, other: object, /) -> object:
        raise NotImplementedError


class Leg: ...


def joined(one: Joins[A, R], other: A) -> R:
    return one.join(other)


def read(route: Route, leg: Leg) -> None:
    joined(route, leg)  #= Route
    joined(route, "Skerry")  #= list[str]
    divmod(7.5, 2)  #= tuple[float, float]
    round(2.5)  #= int
    round(2.5, 1)  #= float
"#,
    );
}

#[test]
fn modules_and_classes_may_be_what_a_protocol_asks_for() {
    holds(
        r#"
from typing import Any, ClassVar, Protocol

import tides
import wrong


class Table(Protocol):
    LIMIT: int

    def height(self, hour: int) -> float: ...


class Fixed:
    LIMIT: ClassVar[int] = 3

    @staticmethod
    def height(hour: int) -> float: ...


class Named:
    LIMIT: ClassVar[int] = 3

    def height(self, hour: int) -> float: ...


def read(table: Table) -> None: ...


read(tides)
read(wrong)  #! class.protocol "of its `height`, for `hour` it takes `str`, not `int`"
read(Fixed)
read(Fixed())  #! class.protocol "it can only be read, and may be assigned there"
read(Named)  #! class.protocol "of its `height`"
read(Named())  #! class.protocol "it can only be read, and may be assigned there"
#- tides.py
LIMIT = 12

def height(hour: int) -> float:
    return 1.5
#- wrong.py
LIMIT = 12

def height(hour: str) -> float:
    return 1.5
"#,
    );
}

#[test]
fn attributes_that_may_be_assigned_hold_the_same() {
    holds(
        r#"
from dataclasses import dataclass
from typing import Any, ClassVar, NamedTuple, Protocol

class Named(Protocol):
    name: str | None

class Shown(Protocol):
    @property
    def name(self) -> str | None: ...

class Vessel:
    name: str = ""

class Harbour:
    name: str | None = None

class Pier:
    def __init__(self) -> None:
        self.name = "north"

class Buoy:
    name: Any = None

class Berth:
    @property
    def name(self) -> str | None:
        return None

class Quay:
    @property
    def name(self) -> str | None:
        return None

    @name.setter
    def name(self, name: str | None) -> None: ...

@dataclass(frozen=True)
class Leg:
    name: str | None

class Stop(NamedTuple):
    name: str | None

def rename(what: Named) -> None:
    what.name = None

def show(what: Shown) -> None: ...

rename(Vessel())  #! class.protocol "of its `name`, it holds `str`, and any `str | None` may be assigned to it there"
rename(Harbour())
rename(Pier())
rename(Buoy())
rename(Berth())  #! class.protocol "of its `name`, it can only be read, and may be assigned there"
rename(Quay())
rename(Leg(None))  #! class.protocol "can only be read"
rename(Stop(None))  #! class.protocol "can only be read"
show(Vessel())
show(Berth())
show(Leg(None))
show(Stop(None))
"#,
    );
}

/// What a descriptor gives and takes is what a protocol's attribute is compared with.
#[test]
fn attributes_behind_descriptors() {
    holds(
        r#"
from typing import Any, Generic, Protocol, TypeVar

T = TypeVar("T")


class Kept(Generic[T]):
    def __init__(self, value: T) -> None:
        self.value = value

    def __get__(self, instance: object, owner: Any = None) -> T:
        return self.value

    def __set__(self, instance: object, value: T) -> None:
        self.value = value


class Closable(Protocol):
    closed: bool


class Berth:
    closed: Kept[bool] = Kept(False)


class Pier:
    closed: Kept[str] = Kept("no")


def close(one: Closable) -> None:
    one.closed = True


close(Berth())
close(Pier())  #! class.protocol
"#,
    );
}

#[test]
fn classes_as_containers_are_what_their_metaclass_says() {
    holds(
        r#"
from enum import Enum, StrEnum
class Tint(StrEnum):
    RED = "r"
class Shade(str, Enum):
    DARK = "d"
list(Tint)
sorted(Tint)
set(Tint)
len(Tint)
", ".join(Tint)
dict.fromkeys(Shade, 1)
class Plain:
    def __iter__(self): ...
list(Plain)  #! call.overload
"#,
    );
}
