//! Writing to names, attributes and items.

use super::holds;

#[test]
fn items_take_what_the_container_is_said_to_hold() {
    holds(
        r#"
from typing import Optional

def price(fares: dict[str, int], stops: list[str], names: tuple[str, ...], text: str, tide: "int | None") -> None:
    fares["child"] = 3
    fares["child"] = "three"  #! value.item "holds `int`"
    fares[3] = 3  #! value.item "as a key"
    stops[0] = "north"
    stops[1:2] = ["south", "west"]
    stops["first"] = "north"  #! value.item "as a key"
    stops[0] = 3  #! value.item
    names[0] = "north"  #! index.unsupported "no items that could be assigned"
    text[0] = "n"  #! index.unsupported
    tide[0] = 3  #! none.index

def concluded() -> None:
    fares = {"child": 3}
    fares["adult"] = "four"
    fares[5] = 6

class Berths:
    def __setitem__(self, place: int, vessel: str) -> None: ...

def moor(berths: Berths) -> None:
    berths[3] = "Tern"
    berths["3"] = "Tern"  #! value.item "as a key"
    berths[3] = 4  #! value.item
"#,
    );
}

#[test]
fn nested_containers_take_displays_of_what_they_hold() {
    holds(
        r#"
from typing import Any, Callable, Optional, Sequence

def table(rows: dict[str, list[float]], calls: dict[str, Callable[[int], int]], loose: dict[str, Any]) -> None:
    rows["north"] = []
    rows["north"] = [1, 2]
    rows["north"] = ["a"]  #! value.item
    calls["twice"] = lambda count: count * 2
    loose["x"] = object()
    loose["y"]["z"] = 3
"#,
    );
}

#[test]
fn properties_without_setters_are_not_assigned() {
    holds(
        r#"
from functools import cached_property

class Vessel:
    def __init__(self) -> None:
        self._length = 30

    @property
    def length(self) -> int:
        return self._length

    @property
    def name(self) -> str:
        return "Tern"

    @name.setter
    def name(self, name: str) -> None: ...

    @cached_property
    def draught(self) -> float:
        return 2.5

    def stretch(self) -> None:
        self.length = 40  #! member.readonly "a property without a setter"

def rename(vessel: Vessel) -> None:
    vessel.name = "Gannet"
    vessel.draught = 3.0
    vessel.length = 3  #! member.readonly
    vessel.length += 3  #! member.readonly

class Open:
    @property
    def size(self) -> int:
        return 3

    def __setattr__(self, name: str, value: object) -> None: ...

Open().size = 4
"#,
    );
}

#[test]
fn fields_of_frozen_dataclasses_and_named_tuples_are_not_assigned() {
    holds(
        r#"
from dataclasses import dataclass
from enum import Enum
from typing import NamedTuple

@dataclass(frozen=True)
class Fare:
    price: int

    def raise_by(self, more: int) -> None:
        self.price += more  #! member.readonly "a field of a frozen dataclass"

@dataclass
class Ticket:
    price: int

class Leg(NamedTuple):
    port: str

class Tide(Enum):
    HIGH = 1

def change(fare: Fare, ticket: Ticket, leg: Leg) -> None:
    ticket.price = 3
    fare.price = 3  #! member.readonly
    leg.port = "north"  #! member.readonly "a field of a named tuple"
    Tide.HIGH = 3  #! member.readonly "a member of an enumeration"
"#,
    );
}

#[test]
fn final_names_keep_their_value() {
    holds(
        r#"
from typing import Final

LIMIT: Final = 120
LIMIT = 121  #! class.final "may not get another value"
SPEED: Final[int] = 12
SPEED += 1  #! class.final

class Vessel:
    KIND: Final = "ferry"
    length: Final[int]

    def __init__(self) -> None:
        self.length = 30
        self.berth: Final = 3

    def move(self) -> None:
        self.length = 31  #! member.readonly "declared as final"
        self.berth = 4  #! member.readonly

def change(vessel: Vessel) -> None:
    vessel.KIND = "barge"  #! member.readonly

class Barge(Vessel):
    KIND = "barge"  #! class.final
"#,
    );
}

#[test]
fn attributes_that_nobody_declares_are_told_where_the_type_was_said() {
    holds(
        r#"
import argparse

class Vessel:
    def __init__(self, name):
        self.name = name

class Loose:
    def __getattr__(self, name): ...

def rename(vessel: Vessel, loose: Loose, arguments: argparse.Namespace) -> None:
    vessel.nmae = "Tern"  #! member.undeclared "is `name` meant?"
    vessel.berth = 3  #! member.undeclared
    loose.berth = 3
    arguments.berth = 3

def unsaid():
    vessel = Vessel("Tern")
    vessel.berth = 3
    vessel.nmae = "Gannet"  #! member.undeclared

def tag(function):
    function.is_public = True

tag.is_public = True
"#,
    );
}

#[test]
fn none_is_not_written_to() {
    holds(
        r#"
from typing import Optional

class Vessel:
    name = ""

def rename(vessel: Optional[Vessel], fares: Optional[dict[str, int]]) -> None:
    vessel.name = "Tern"  #! none.member
    fares["child"] = 3  #! none.index
"#,
    );
}

#[test]
fn what_is_assigned_to_a_declared_attribute_is_of_its_type_from_the_start() {
    holds(
        r#"
from typing import Any, Dict, Generic, List, Mapping, Optional, TypeVar, Union

Key = Union[str, int]
T = TypeVar("T")


class Base:
    berths: Mapping[Key, object]
    notes: "List[Optional[str]]"


class Harbour(Base, Generic[T]):
    def __init__(self, first: T) -> None:
        self.kept: Dict[str, T] = {}
        self.first = None  # type: Optional[int]

    def read(self, names: List[str], given) -> None:
        self.berths = {name: 1 for name in names}
        self.berths  #= dict[str | int, object]
        self.notes = []
        self.notes  #= list[str | None]
        self.kept = dict(given)
        self.kept  #= dict[str, T]
        self.first = 3
        self.first  #= int
        self.berths = given
        self.berths  #= Mapping[str | int, object]
"#,
    );
}
