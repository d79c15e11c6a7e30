//! Class definitions: bases, what is final, fields.

use super::holds;

#[test]
fn bases_are_classes_that_can_be_derived_from() {
    holds(
        r#"
from enum import Enum
from typing import Generic, NamedTuple, TypeVar, final

T = TypeVar("T")

class Tide(Enum):
    HIGH = 1

class Empty(Enum):
    def shown(self) -> str:
        return self.name

@final
class Pier: ...

def make(): ...

class A(3): ...  #! class.base "is no class"
class B(make): ...  #! class.base
class C(Tide): ...  #! class.base "an enumeration with members"
class D(Empty):
    LOW = 1
class E(bool): ...  #! class.base "no class can derive"
class F(A, A): ...  #! class.base "twice"
class G(Pier): ...  #! class.final "no class may derive from it"
class H(Generic[T], dict[str, T]): ...
class I(list): ...
class J(make()): ...  #! class.base
"#,
    );
}

#[test]
fn bases_have_one_order() {
    holds(
        r#"
class Vessel: ...
class Ferry(Vessel): ...
class Tug(Vessel): ...
class Right(Ferry, Tug, Vessel): ...
class Wrong(Vessel, Ferry): ...  #! class.order "cannot be brought into one order"
class First(Ferry, Tug): ...
class Second(Tug, Ferry): ...
class Both(First, Second): ...  #! class.order
"#,
    );
}

#[test]
fn final_methods_are_not_overridden() {
    holds(
        r#"
from typing import final

class Vessel:
    @final
    def load(self) -> int:
        return 3

    @final
    @property
    def length(self) -> int:
        return 3

    @final
    def __secret(self) -> int:
        return 3

class Ferry(Vessel):
    def load(self) -> int:  #! class.final "`Vessel.load` is final"
        return 4

    @property
    def length(self) -> int:  #! class.final
        return 4

    def __secret(self) -> int:
        return 4
"#,
    );
}

#[test]
fn fields_without_defaults_come_first() {
    holds(
        r#"
from dataclasses import KW_ONLY, dataclass, field
from typing import ClassVar, NamedTuple

@dataclass
class Fare:
    price: int = 3
    ticket: str  #! class.field "has no default and stands behind `price`"
    note: str = field(default="")
    later: int = field(init=False)
    shared: list = []  #! class.field "one container for all instances"
    made: list = field(default_factory=list)
    known: ClassVar[list] = []
    _: KW_ONLY
    named: int

@dataclass
class Child(Fare):
    age: int  #! class.field

@dataclass(kw_only=True)
class Named:
    price: int = 3
    ticket: str

@dataclass(init=False)
class Own:
    price: int = 3
    ticket: str

class Leg(NamedTuple):
    port: str = "north"
    tide: int  #! class.field
"#,
    );
}
