//! Classes that are made by calls, by decorators and from fields.

use super::holds;

#[test]
fn init_var_is_a_parameter_of_its_argument() {
    holds(
        r#"
from dataclasses import InitVar, dataclass

@dataclass
class Line:
    encoding: InitVar[str] = "utf-8"

Line(encoding="ascii")
Line(encoding=3)  #! call.argument
"#,
    );
}

#[test]
fn classes_made_by_a_call_are_classes() {
    holds(
        r#"
import collections
from collections import namedtuple
from enum import Enum
from typing import NamedTuple, NewType, TypedDict

Leg = NamedTuple("Leg", [("port", str), ("tide", int)])
leg = Leg("north", 3)
leg.port  #= str
leg[1]  #= int
Leg("north")  #! call.missing
port, tide = leg
tide  #= int

Stop = namedtuple("Stop", "port berth, pier", defaults=(None,))
stop = Stop("north", 3)
stop.port
stop.prot  #! member.absent "is `port` meant?"
Stop("north")  #! call.missing

class Route(collections.namedtuple("Route", ["first", "last"])):
    def __new__(cls, first, last="south"):
        return super().__new__(cls, first, last)

    def back(self):
        return Route(self.last, self.first)

Route("north").back().first
Route("north").frist  #! member.absent

Tide = Enum("Tide", "HIGH LOW")
Tide.HIGH  #= Literal[Tide.HIGH]
Tide.MID  #! member.absent

Berth = NewType("Berth", int)
def moor(berth: Berth) -> int:
    return berth + 1

moor(Berth(3))
moor(3)  #! call.argument
Berth("three")  #! call.argument
Berth(3)  #= Berth

Unread = namedtuple("Unread", list(leg))
Unread(1, 2, 3, 4).anything

def inner():
    Local = namedtuple("Local", "x")
    return Local(3).y  #! member.absent
"#,
    );
}

#[test]
fn dataclasses_compare_where_they_ask_for_it() {
    holds(
        r#"
from dataclasses import dataclass, replace

@dataclass(order=True)
class Leg:
    miles: int

@dataclass
class Stop:
    port: str

Leg(3) < Leg(4)  #= bool
Leg(3) < 4  #! operator.unsupported
Stop("a") < Stop("b")  #! operator.unsupported
Stop("a") == Stop("b")  #= bool
sorted([Leg(3), Leg(4)])  #= list[Leg]
replace(Leg(3), miles=4)  #= Leg
"#,
    );
}

#[test]
fn a_generic_named_tuple_has_the_items_that_it_was_made_of() {
    holds(
        r#"
from typing import Generic, NamedTuple, TypeVar

T = TypeVar("T")

class Pair(NamedTuple, Generic[T]):
    first: T
    second: T

def north(pair: Pair[str]) -> None:
    pair.first  #= str
    pair[1]  #= str
    first, second = pair
    second  #= str
"#,
    );
}

#[test]
fn what_total_ordering_makes_is_there() {
    holds(
        r#"
import functools
from functools import total_ordering

@total_ordering
class Berth:
    def __lt__(self, other: "Berth") -> bool:
        return True

@functools.total_ordering
class Pier:
    def __gt__(self, other: int) -> bool:
        return True

class Plain:
    def __lt__(self, other: "Plain") -> bool:
        return True

Berth() <= Berth()  #= bool
Berth() >= 3  #! operator.unsupported
Pier() < 3  #= bool
Plain() <= Plain()  #! operator.unsupported
"#,
    );
}

#[test]
fn keywords_of_a_class_go_to_init_subclass() {
    holds(
        r#"
class Vessel:
    def __init_subclass__(cls, *, deck: int, **rest: object) -> None: ...

class Ferry(Vessel, deck=1):
    pass

class Tug(Vessel, deck="one"):  #! call.argument "does not fit `deck` of `Vessel.__init_subclass__`"
    pass

class Barge(Vessel):  #! call.missing "`deck`"
    pass

class Plain:
    pass

class Other(Plain):
    pass
"#,
    );
}

#[test]
fn what_a_field_call_gives_is_used_in_the_class_body() {
    holds(
        r#"
from typing import Any

def field() -> Any: ...

class Sailing:
    vessel: str = field()

    @vessel.default
    def _vessel(self) -> str:
        return "Skerry Lass"

Sailing().vessel  #= str
"#,
    );
}

#[test]
fn integer_enumerations_are_enumerations_in_old_versions_too() {
    for version in ["3.8", "3.10", "3.13"] {
        holds(&format!(
            r#"
#- python {version}
from enum import IntEnum, IntFlag

class Tide(IntEnum):
    LOW = 0
    HIGH = 1

class Deck(IntFlag):
    UPPER = 1

def tide(at: Tide = Tide.LOW) -> Tide:
    return Tide.HIGH

x: Deck = Deck.UPPER | Deck(2)
y: int = Tide.LOW
tide(1)  #! call.argument
"#
        ));
    }
}
