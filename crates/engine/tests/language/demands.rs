//! What is only told where a demand asks for it.

use super::holds;

#[test]
fn any_is_told_wherever_the_project_writes_it_as_a_type() {
    holds(
        r#"
#- demand no-any
import typing
from typing import Any, Callable

def label(berth: Any, rest: dict[str, typing.Any], *more: "Any") -> list[Any]:  #! annotation.any  #! annotation.any  #! annotation.any  #! annotation.any
    tide: Any = rest  #! annotation.any
    return [tide.level]

Fares = dict[str, Any]  #! annotation.any
Rows = list[dict[str, Any]] | None  #! annotation.any
row = {"a": 1}["a"]
sea = list

class Ferry:
    crew: Callable[..., Any]  #! annotation.any
    log: "list[Fares]"

    def __init__(self) -> None:
        self.papers: Any = None  #! annotation.any

_TABLE: dict[str, Any] = {}  #! annotation.any

def fill(name: str) -> None:
    _TABLE[name] = 3
    _TABLE["a"] = Ferry().papers

def quiet(berth: object, run: Callable[..., None]) -> type[object]:
    return type(berth)
"#,
    );
}

#[test]
fn generics_say_what_they_are_of() {
    holds(
        r#"
#- demand filled-generics
import collections
from collections.abc import Callable, Iterable
from typing import Generic, List, Tuple, TypeVar

T = TypeVar("T")
Pair = tuple[T, T]

class Dock(Generic[T]):
    held: list  #! generic.bare "`list` does not say what it is of"

    def __init__(self, first: T, log: dict, back: Callable) -> None:  #! generic.bare "`dict`"  #! generic.bare "`Callable`"
        self.first: T = first
        self.queue: collections.deque = collections.deque()  #! generic.bare "`collections.deque`"

def use(dock: Dock, pair: Pair, of: type, all: List, two: Tuple) -> Iterable[tuple]:  #! generic.bare "`Dock`"  #! generic.bare "`Pair`"  #! generic.bare "`type`"  #! generic.bare "`List`"  #! generic.bare "`Tuple`"  #! generic.bare "`tuple`"
    names = []
    yield from names

def fine(dock: Dock[int], pair: Pair[int], of: type[int], count: "dict[str, list[int]]") -> Callable[[int], None]:
    if isinstance(count, dict):
        print(list)
    return print
"#,
    );
}

#[test]
fn a_type_with_defaults_for_all_it_is_of_is_not_bare() {
    holds(
        r#"
#- demand filled-generics
#- python 3.13
#- quiet
class Berth[T = int]:
    def of(self) -> T: ...

def use(berth: Berth) -> None: ...
"#,
    );
}

#[test]
fn unknown_values_are_told_once_for_each_reason_in_a_function() {
    holds(
        r#"
#- demand known-values
import tidelib  #! import.unresolved

def price(distance, rate: float):
    miles = distance.miles  #! unknown.value "what `distance` is cannot be told, because of a parameter without annotation (`distance`); so are 7 more values here"
    print(distance)
    return rate * miles + distance.extra

def unused(distance, rate: float) -> float:
    return rate

def run(rate: float) -> None:
    tidelib.start()  #! unknown.value "so is one more value here"
    level = rate

def both(one, other):
    return one, other  #! unknown.value "`one`"  #! unknown.value "`other`"
"#,
    );
}

#[test]
fn annotated_code_calls_nothing_without_annotations() {
    holds(
        r#"
#- demand typed-callees
class Bare:
    def __init__(self, name):
        self.name = name

    def board(self, cars):
        return cars

    def told(self, cars: int):
        return cars

class Plain:
    def __init__(self):
        self.cars = 0

def fare(distance):
    return distance * 2

def price(distance: float) -> None:
    fare(distance)  #! call.unannotated "`fare` has no annotations"
    ferry = Bare("Tern")  #! call.unannotated "`Bare.__init__` has no annotations"
    ferry.board(3)  #! call.unannotated "`Bare.board` has no annotations"
    ferry.told(3)
    Plain()
    print(len([distance]))
    price(3)

def bare(distance):
    fare(distance)

fare(3)
"#,
    );
}

#[test]
fn attributes_are_there_from_the_beginning() {
    holds(
        r#"
#- demand declared-attributes
import unittest
from dataclasses import dataclass

class Vessel:
    crew: int

    def __init__(self) -> None:
        self.name = ""

    def base(self) -> None:
        self.late = 1  #! class.late-attribute "`late` of `Vessel` is neither declared in the class nor set in `__init__`"
        self.late = 2

class Ferry(Vessel):
    __slots__ = ("deck",)

    def board(self, cars: int) -> None:
        self.name, self.crew, self.deck, self.late = "", 3, 4, 5
        self.cars = cars  #! class.late-attribute
        self.rows: int = 3  #! class.late-attribute

    @property
    def full(self) -> bool:
        return True

    @full.setter
    def full(self, value: bool) -> None:
        self._full = value  #! class.late-attribute

@dataclass
class Fare:
    adult: float

    def __post_init__(self) -> None:
        self.child = self.adult / 2

class Test(unittest.TestCase):
    def setUp(self) -> None:
        self.ferry = Ferry()

    def test(self) -> None:
        self.ferry.board(3)
"#,
    );
}

#[test]
fn methods_that_stand_in_say_so() {
    holds(
        r#"
#- demand marked-overrides
from typing import overload, override

class Vessel:
    kind = ""

    def __init__(self) -> None: ...
    def load(self) -> int:
        return 1

    def __own(self) -> None: ...
    @property
    def name(self) -> str:
        return ""

    def __len__(self) -> int:
        return 1

class Ferry(Vessel):
    def __init__(self) -> None: ...
    def load(self) -> int:  #! class.unmarked-override "`Ferry.load` stands in for `Vessel.load` and is not marked"
        return 2

    def __own(self) -> None: ...
    def __repr__(self) -> str:
        return ""

    @property
    def name(self) -> str:  #! class.unmarked-override
        return ""

    @name.setter
    def name(self, value: str) -> None: ...
    def __len__(self) -> int:  #! class.unmarked-override
        return 2

    def own(self) -> None: ...

class Barge(Ferry):
    @override
    def load(self) -> int:
        return 3

    @overload
    @override
    def own(self) -> None: ...
    @overload
    def own(self, deck: int = 0) -> None: ...
    def own(self, deck: int = 0) -> None: ...
"#,
    );
}

#[test]
fn chains_over_closed_sets_are_complete() {
    holds(
        r#"
#- demand complete-matches
from typing import Literal

class Wave: ...
class Calm: ...

class Gauge:
    mode: Literal["low", "high", "off"]

def read(mode: Literal["r", "w", "a"], gauge: Gauge, sea: Wave | Calm | None, free: str) -> str:
    text = ""
    if mode == "r":  #! flow.incomplete-match "`Literal["a"]` is left out here"
        text = "read"
    elif mode == "w":
        text = "write"
    if gauge.mode == "low":  #! flow.incomplete-match "`Literal["off"]` is left out here"
        text = "low"
    elif gauge.mode in ("high",):
        text = "high"
    if isinstance(sea, Wave):  #! flow.incomplete-match "`None` is left out here"
        text = "wave"
    elif isinstance(sea, Calm):
        text = "calm"
    if free == "a":
        text = "b"
    elif free == "b":
        text = "c"
    if mode == "r":
        text = "r"
    elif mode == "w":
        text = "w"
    elif mode == "a":
        text = "a"
    if mode == "r":
        return "r"
    elif mode == "w":
        return "w"
    return text
"#,
    );
}

#[test]
fn suppressions_name_rules_give_reasons_and_hide_something() {
    holds(
        r#"
#- in full
#- demand reasoned-suppressions
a: int = "3"  # type: ignore  #! suppression.blanket@15-29 "this hides every finding of the line, whatever it is"  #> name "name the rules that are hidden, and why"
b: int = "3"  # type: ignore[value.assign]  #! suppression.unreasoned@15-43 "`type: ignore` gives no reason"  #> reason "write the reason behind it"  #> remove "take the comment out and mend what it hides"
c: int = "3"  # type: ignore[value.assign] the pier is closed
d: int = "3"  # leitmotiv: allow(value.assign)  #! suppression.unreasoned@15-47 "`allow` gives no reason"  #> reason "write the reason behind it"  #> remove "take the comment out and mend what it hides"
"#,
    );
}
