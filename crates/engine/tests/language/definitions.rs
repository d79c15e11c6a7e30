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

#[test]
fn what_init_vars_pass_on_is_what_post_init_takes() {
    holds(
        r#"
from dataclasses import InitVar, dataclass, replace

@dataclass
class Fare:
    price: int
    discount: InitVar[int]

    def __post_init__(self, discount: int) -> None:
        self.price -= discount

@dataclass
class Wrong:
    price: int
    discount: InitVar[int]

    def __post_init__(self, discount: str) -> None: ...  #! class.field "as `int`, which takes `str`"

@dataclass
class Less:
    discount: InitVar[int]

    def __post_init__(self) -> None: ...  #! class.field "which does not take it"

@dataclass
class More:
    price: int

    def __post_init__(self, rate: int, extra: int = 0) -> None: ...  #! class.field "asks for `rate`"

@dataclass
class Loose:
    price: int
    discount: InitVar[int]

    def __post_init__(self, *args) -> None: ...

@dataclass
class Sailing:
    port: str
    cars: int = 0

replace(Sailing("Skerry"), cars=3)  #= Sailing
replace(Sailing("Skerry"), cras=3)  #! call.keyword "`cras`"
replace(Sailing("Skerry"), cars="three")  #! call.argument "`Literal["three"]` does not fit `cars`"
replace(Fare(3, 1), discount=2)
replace(Fare(3, 1), price=2)  #! call.missing "`discount`"
"#,
    );
}

#[test]
fn aliases_of_members_are_the_members() {
    holds(
        r#"
from enum import Enum, Flag

class Signal(Enum):
    RED = 1
    STOP = 1
    HALT = STOP
    GREEN = 2
    GO = "go"
    SAIL = "go"

Signal.STOP  #= Literal[Signal.RED]
Signal.HALT  #= Literal[Signal.RED]
Signal.SAIL  #= Literal[Signal.GO]
Signal.GREEN  #= Literal[Signal.GREEN]

def sail(signal: Signal) -> int:
    match signal:
        case Signal.HALT:
            return 0
        case Signal.GREEN | Signal.GO:
            return 1

def wait(signal: Signal) -> int:  #! flow.missing-return
    match signal:  #! flow.incomplete-match "`Literal[Signal.GO]`"
        case Signal.RED:
            return 0
        case Signal.GREEN:
            return 1

class Deck(Flag):
    UPPER = 1
    LOWER = 2
    ALL = UPPER | LOWER

def load(deck: Deck) -> int:  #! flow.missing-return
    if deck is Deck.UPPER:
        return 1
    elif deck is Deck.LOWER:
        return 2
    elif deck is Deck.ALL:
        return 3

Deck.UPPER | Deck.LOWER  #= Deck
"#,
    );
}

#[test]
fn signatures_of_an_overload_go_together() {
    holds(
        r#"
from abc import abstractmethod
from typing import Any, Protocol, overload

@overload
def alone(cars: int) -> int: ...  #! class.overloads "`alone` has but one signature"
def alone(cars):
    return cars

@overload
def undefined(cars: int) -> int: ...  #! class.overloads "no definition behind them"
@overload
def undefined(cars: str) -> str: ...

@overload
def refused(cars: int) -> int: ...
@overload
def refused(cars: int, deck: str) -> str: ...  #! class.overloads "does not take what this signature takes"
def refused(cars: int) -> int | str:
    return cars

@overload
def results(cars: int) -> int: ...
@overload
def results(cars: str) -> bytes: ...  #! class.overloads "gives `bytes`, and the definition `int | str`"
def results(cars: int | str) -> int | str:
    return cars

@overload
def hidden(cars: object) -> int: ...
@overload
def hidden(cars: str) -> str: ...  #! class.overloads "never chosen"
def hidden(cars):
    return cars

@overload
def right(cars: int, deck: None = None) -> int: ...
@overload
def right(cars: int, deck: str) -> str: ...
@overload
def right(cars: Any, deck: bytes) -> bytes: ...
def right(cars: Any, deck: Any = None) -> Any:
    return cars

class Vessel:
    @overload
    def load(self, cars: int) -> int: ...
    @overload
    def load(self, *cars: str) -> str: ...
    def load(self, *cars):
        return cars

    @overload
    @abstractmethod
    def sail(self, port: str) -> int: ...
    @overload
    @abstractmethod
    def sail(self, port: int) -> str: ...

class Loads(Protocol):
    @overload
    def load(self, cars: int) -> int: ...
    @overload
    def load(self, cars: str) -> str: ...
"#,
    );
}

#[test]
fn classes_that_are_made_like_dataclasses() {
    holds(
        r#"
#- kit.py
from collections.abc import Callable
from typing import Any, TypeVar, overload

from typing_extensions import dataclass_transform

T = TypeVar("T")


def entry(*, default: Any = ..., init: bool = True, alias: str | None = None, kw_only: bool = False) -> Any: ...


@overload
@dataclass_transform(kw_only_default=True, field_specifiers=(entry,))
def record(cls: type[T]) -> type[T]: ...
@overload
@dataclass_transform(kw_only_default=True, field_specifiers=(entry,))
def record(*, frozen: bool = False) -> Callable[[type[T]], type[T]]: ...
def record(cls: Any = None, **options: Any) -> Any: ...


@dataclass_transform(frozen_default=True)
class Model:
    def __init__(self, **values: Any) -> None: ...


@dataclass_transform()
class Meta(type): ...


class Base(metaclass=Meta): ...


#- main.py
from kit import Base, Model, entry, record


@record
class Berth:
    name: str
    length: float = entry(default=10.0)
    depth: float = entry(alias="deep", kw_only=False)
    notes: list[str] = entry(init=False)


@record(frozen=True)
class Tide:
    height: float


class Fare(Model):
    amount: float


class Vessel(Base):
    name: str
    berths: int = 1


Berth(name="North", deep=3.5)  #= Berth
Berth("North", deep=3.5)  #! call.repeated "given twice"
Berth(name=3, deep=3.5)  #! call.argument "does not fit `name`"
Tide(height=1.5).height = 2.0  #! member.readonly "cannot be assigned"
Fare(amount="much")  #! call.argument "does not fit `amount`"
Vessel("Gannet", 2)
Vessel()  #! call.missing "leaves out the argument `name`"
Vessel(name="Gannet").berths  #= int
"#,
    );
}

#[test]
fn strings_in_stubs_are_values_where_they_stand_alone() {
    holds(
        r#"
#- tides.pyi
from enum import Enum
from typing import Final
class Tide(Enum):
    HIGH = "high"
DATUM: Final = "chart"
Level = dict[str, "Mark"]
class Mark: ...
#- main.py
from tides import DATUM, Level, Tide
Tide.HIGH.value #= Literal["high"]
def f(level: Level):
    level["a"] #= Mark
"#,
    );
}

#[test]
fn signatures_that_overlap_give_what_fits() {
    holds(
        r#"
from typing import Literal, overload

@overload
def berth(name: str) -> int: ...  #! class.overlap "gives `int`; one below takes the same and more, and gives `str`"
@overload
def berth(name: object) -> str: ...
def berth(name: object) -> int | str:
    return 3

@overload
def tide(high: Literal[True]) -> int: ...
@overload
def tide(high: bool) -> int | None: ...
def tide(high: bool) -> int | None:
    return 3 if high else None

@overload
def fare(age: int) -> int: ...
@overload
def fare(age: float) -> float: ...
def fare(age: float) -> float:
    return age

@overload
def port(name: str, code: int) -> int: ...
@overload
def port(name: object) -> str: ...
def port(name: object, code: int = 0) -> int | str:
    return code

@overload
def leg(name: str, *, code: int = 0) -> int: ...
@overload
def leg(name: bytes, *, code: int) -> str: ...
def leg(name: object, *, code: int = 0) -> int | str:
    return code
"#,
    );
}
