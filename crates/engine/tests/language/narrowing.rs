//! Type narrowing (typing specification, "Type narrowing").

use super::holds;

#[test]
fn a_truth_that_was_tested_leaves_the_other() {
    holds(
        r#"
def ranges(accepted: "bool | str") -> str:
    if not accepted:
        accepted  #= Literal[False] | str
        return ""
    accepted  #= Literal[True] | str
    if accepted is True:
        accepted = "bytes"
    accepted  #= str
    return accepted
"#,
    );
}

#[test]
fn what_a_condition_says_of_an_item_holds_for_items_of_any_class() {
    holds(
        r#"
class Berth:
    depth = 3

class Row:
    def __getitem__(self, place: int) -> "Berth | None":
        return None

    def __setitem__(self, place: int, berth: "Berth | None") -> None: ...

def depth(row: Row, berth: Berth) -> int:
    if isinstance(row[0], Berth):
        row[0]  #= Berth
        return row[0].depth
    # What such a class makes of what is written is its own affair.
    row[1] = berth
    row[1]  #= Berth | None
    return 0
"#,
    );
}

#[test]
fn none_is_ruled_out_of_protocols_as_of_classes() {
    holds(
        r#"
from os import PathLike
from typing import Iterable, Optional

def folder(path: "str | PathLike[str] | None") -> None:
    if path is not None:
        path = "harbour"
    path  #= str | None

def call_all(names: Optional[Iterable[str]]) -> None:
    if names is None:
        names  #= None
    else:
        names  #= Iterable[str]
"#,
    );
}

#[test]
fn a_variable_with_constraints_is_narrowed_as_the_union_of_them() {
    holds(
        r#"
from typing import AnyStr, Optional

def trimmed(text: Optional[AnyStr]) -> None:
    if isinstance(text, bytes):
        text  #= bytes
    elif text:
        text  #= str
        text.endswith("\n")
"#,
    );
}

#[test]
fn hasattr_rules_out_what_surely_has_the_member() {
    holds(
        r#"
from typing import IO, Any, Union

def log_of(source: Union[str, IO[Any]]) -> None:
    if hasattr(source, "read"):
        source  #= IO[Any]
    else:
        source  #= str
"#,
    );
}

#[test]
fn not_in_rules_out_each_literal_beside_other_values() {
    holds(
        r#"
BASE: int = 4

def deck(number: int | None) -> None:
    if number not in (None, BASE):
        number  #= int
"#,
    );
}

#[test]
fn a_sentinel_that_is_the_only_member_is_told_apart_by_identity() {
    holds(
        r#"
from enum import Enum
from typing import Final

class _Unset(Enum):
    token = 0

UNSET: Final[_Unset] = _Unset.token

def wait(minutes: float | _Unset = UNSET) -> float:
    if minutes is UNSET:
        return 5.0
    minutes  #= float
    return minutes
"#,
    );
}

#[test]
fn what_has_a_protocols_members_keeps_its_others() {
    holds(
        r#"
from collections.abc import Iterable, Sized

def count(manifest) -> int:
    if isinstance(manifest, Sized):
        for line in manifest:
            line.strip()
        return len(manifest)
    if isinstance(manifest, Iterable):
        return len(manifest)
    return 0
#- quiet
"#,
    );
}

#[test]
fn a_class_that_both_may_derive_from_is_not_guessed() {
    holds(
        r#"
class Vessel:
    name: str = "Tern"

class Insured:
    policy: int = 1

def describe(vessel: Vessel) -> None:
    if isinstance(vessel, Insured):
        vessel.name
        vessel.policy
#- quiet
"#,
    );
}

#[test]
fn a_part_that_passes_by_its_class_is_meant_before_a_protocol() {
    holds(
        r#"
from typing import Any, Iterable, Mapping, Tuple, Union

def pairs(value: Union[str, Mapping[str, Any], Iterable[Tuple[str, Any]]]) -> None:
    if isinstance(value, dict):
        value  #= dict[str, Any]
"#,
    );
}

#[test]
fn an_item_by_a_name_is_narrowed_until_the_name_or_the_item_changes() {
    holds(
        r#"
def moor(berths: dict[str, str | None], name: str, other: str) -> None:
    if berths[name] is not None:
        berths[name]  #= str
        berths[other]  #= str | None
        berths[other] = None
        berths[name]  #= str | None
    if berths[name] is not None:
        name = other
        berths[name]  #= str | None
    berths[name] = "Tern"
    berths[name]  #= Literal["Tern"]
"#,
    );
}

#[test]
fn len_of_a_tuple_tells_its_length() {
    holds(
        r#"
def leg(stops: tuple[str] | tuple[str, str]) -> None:
    if len(stops) == 2:
        stops  #= tuple[str, str]
    else:
        stops  #= tuple[str]
"#,
    );
}

#[test]
fn what_holds_at_the_end_of_a_with_block_holds_behind_it() {
    holds(
        r#"
import re
from contextlib import suppress
from typing import Optional

class Desk:
    open_since: Optional[int] = None

    def __init__(self, gate: "Gate") -> None:
        self.gate = gate

    def since(self) -> None:
        with self.gate:
            if self.open_since is None:
                self.open_since = 3
        self.open_since  #= int

    def perhaps(self) -> None:
        with suppress(ValueError):
            if self.open_since is None:
                self.open_since = 3
        self.open_since  #= int | None

class Gate:
    def __enter__(self) -> None: ...
    def __exit__(self, *why: object) -> None: ...
"#,
    );
}

#[test]
fn a_length_that_is_compared_rules_out_shorter_tuples() {
    holds(
        r#"
def port(address: tuple[str, int] | tuple[str, int, int, int]) -> None:
    if len(address) > 3:
        address[3]  #= int
    else:
        address  #= tuple[str, int]
    if len(address) < 3:
        address  #= tuple[str, int]
"#,
    );
}

#[test]
fn a_key_that_was_found_is_looked_up_without_none() {
    holds(
        r#"
from typing import Dict, Optional

def first(fares: Dict[str, int], marks: Dict[str, Optional[int]], port: str) -> None:
    fares.get(port)  #= int | None
    if port in fares:
        fares.get(port)  #= int
        fares.get("other")  #= int | None
        marks.get(port)  #= int | None
    else:
        fares.get(port)  #= int | None
    if "north" not in fares:
        return
    fares.get("north")  #= int
    fares = {}
    fares  #= dict[str, int]
    fares.get("north")  #= int | None

def again(fares: Dict[str, int], port: str) -> int:
    if fares.get(port) is not None:
        return fares.get(port)
    if fares.get("north"):
        fares.get("south")  #= int | None
        fares["south"] = 3
        del fares["north"]
        fares.get("south")  #= Literal[3]
        return fares.get("north")  #! value.return "int | None"
    fares["west"], count = 3, 4
    fares.get("west")  #= int | None
    port = "south"
    return fares.get(port)  #! value.return "int | None"
"#,
    );
}

#[test]
fn patterns_say_what_their_parts_are() {
    holds(
        r#"
from dataclasses import dataclass
from typing import Literal, Union

@dataclass
class Port:
    name: str
    depth: float

@dataclass
class Leg:
    start: Port
    miles: int

def told(place: "Port | Leg | list[int] | dict[str, float] | tuple[int, str] | None") -> None:
    match place:
        case Port(name, depth=deep):
            name  #= str
            deep  #= float
        case Leg(start=Port(name=at), miles=miles):
            at  #= str
            miles  #= int
        case (number, text):
            number  #= int
            text  #= int | str
        case [first, *rest]:
            first  #= int
            rest  #= list[int]
        case {"north": miles_north, **others}:
            miles_north  #= float
            others  #= dict[str, float]
        case None as nothing:
            nothing  #= None
        case other:
            other  #= list[int] | dict[str, float]

def tagged(order: "tuple[Literal['go'], str] | tuple[Literal['stop'], int]") -> None:
    match order:
        case ("go", port):
            port  #= str
        case ("stop", minutes):
            minutes  #= int

def whole(value: "int | str | bytes") -> None:
    match value:
        case int() | str() as both:
            both  #= int | str
        case bytes(raw):
            raw  #= bytes

class Spot:
    __match_args__ = ("x", "y")
    x: int
    y: str

def spot(value: Spot) -> None:
    match value:
        case Spot(x, y):
            x  #= int
            y  #= str

def pairs(first: int, second: "str | None") -> None:
    match first, second:
        case (1, str(name)):
            name  #= str
        case (_, None):
            pass
"#,
    );
}

#[test]
fn attributes_that_are_declared_can_be_exhausted() {
    holds(
        r#"
from typing import Literal, assert_never

class Sailing:
    way: Literal["out", "home"] = "out"

    def __init__(self) -> None:
        self.state = None

    @property
    def season(self) -> Literal["summer", "winter"]:
        return "summer"

    def fare(self) -> int:
        if self.way == "out":
            return 1
        elif self.way == "home":
            return 2
        else:
            assert_never(self.way)

    def rate(self) -> int:
        if self.season == "summer":
            return 1
        elif self.season == "winter":
            return 2
        assert_never(self.season)

    def tide(self) -> int:
        if self.way == "out":
            return 1
        assert_never(self.way)  #! assert.never "`Literal["home"]`"

    def wait(self):
        self.state = None
        self.change()
        if self.state is not None:
            self.state  #= Sailing

    def change(self):
        self.state = Sailing()

    def stop(self): ...
"#,
    );
}

#[test]
fn an_object_that_is_none_is_none() {
    holds(
        r#"
from typing import Protocol, TypeVar

T = TypeVar("T")

class HasHash(Protocol):
    def __hash__(self) -> int: ...

def first(value: object) -> int | None:
    if value is None:
        return value
    return 3

def second(value: HasHash, other: T) -> None:
    if value is None:
        value  #= None
    if other is None:
        other  #= T

def none(cls: type[int]) -> None:
    return cls  #! value.return
"#,
    );
}

#[test]
fn guards_speak_of_what_they_were_given() {
    holds(
        r#"
from typing import Any, TypeGuard, TypeVar
from typing_extensions import TypeIs

T = TypeVar("T")

class Vessel:
    def sail(self) -> int:
        return 3

def is_kind(value: Any, kind: type[T]) -> TypeGuard[type[T]]: ...
def is_one(value: object, kind: type[T]) -> TypeIs[T]: ...

def use(value: Any, other: "Vessel | str"):
    if is_kind(value, Vessel):
        value  #= type[Vessel]
    if is_one(other, Vessel):
        other  #= Vessel
    else:
        other  #= str

class Tug:
    pass

def classes(tug: Tug):
    if isinstance(tug, type):
        tug()
"#,
    );
}

#[test]
fn ways_that_have_all_between_them_give_back_what_was_there() {
    holds(
        r#"
from collections.abc import Callable, Mapping, Set


def pack(make: Callable[[int], str], hold: object, hurry: bool) -> None:
    if isinstance(make, type) and issubclass(make, (Mapping, Set)):
        print("a container")
    make(3)  #= str
    if isinstance(hold, str):
        if hurry:
            print("quick")
        hold  #= str
    hold  #= object
    if isinstance(hold, bytes):
        return
    elif isinstance(hold, str):
        hold = 3
    hold  #= int | object
"#,
    );
}

#[test]
fn guards_by_the_signature_that_is_chosen() {
    holds(
        r#"
from typing import Any, Literal, TypeGuard, overload


class Later:
    text: str


@overload
def is_later(item: Any, plain: Literal[False] = ...) -> TypeGuard[Later]: ...
@overload
def is_later(item: Any, plain: bool = ...) -> TypeGuard[str | Later]: ...
def is_later(item: Any, plain: bool = False) -> TypeGuard[str | Later]:
    return isinstance(item, Later)


def read(item: str | Later | type[int]) -> None:
    if is_later(item):
        item  #= Later
"#,
    );
}

#[test]
fn a_guard_beside_a_call_that_is_none_leaves_the_value_whole_where_both_fail() {
    holds(
        r#"
from typing import Any, Protocol, TypeGuard, Union


class Listed(Protocol):
    names: tuple[str, ...]


def is_listed(berth: Any) -> TypeGuard[Listed]: ...
def has_tide(berth: Any) -> bool: ...


def read(berth: Union[str, int]) -> Union[str, int]:
    if is_listed(berth) and has_tide(berth):
        berth  #= Listed
        return 0
    else:
        berth  #= str | int
        return berth
"#,
    );
}

#[test]
fn the_class_asked_about_is_not_narrowed_by_the_question() {
    holds(
        r#"
#- quiet
import datetime

def at_noon(value):
    if type(value) == datetime.date:
        return datetime.datetime(value.year, value.month, value.day)
    return None
"#,
    );
}

#[test]
fn of_several_containers_the_one_that_was_assigned_is_held() {
    holds(
        r#"
from collections.abc import Iterable
from typing import Any, cast

class Sailing:
    vessel: str = ""

def names(sailings: Iterable[Sailing] | Iterable[dict[str, Any]]) -> list[str]:
    sailings = cast(Iterable[Sailing], sailings)
    sailings  #= Iterable[Sailing]
    return [sailing.vessel for sailing in sailings]
"#,
    );
}

#[test]
fn a_choice_is_true_by_its_last_part() {
    holds(
        r#"
def shown(length: int | None, name: str, berths: list[int]) -> None:
    length and "(%d)" % length or ""  #= str
    (berths or name) and 3  #= str | Literal[3]
    "VARBINARY" + (length and "(%d)" % length or "")
    length and name  #= int | str | None
"#,
    );
}
