//! Calls: arguments, overloads, solving.

use super::holds;

#[test]
fn what_a_callback_takes_says_less_than_what_is_passed() {
    holds(
        r#"
from functools import reduce
from math import gcd

def step(lengths: list[int]) -> int:
    return reduce(gcd, lengths)
#- quiet
"#,
    );
}

#[test]
fn a_bound_that_is_a_union_fits_the_union() {
    holds(
        r#"
from typing import TypeVar, Union

class Tide: ...

TideVar = TypeVar("TideVar", bound=Union[Tide, str])

def level(tide: Union[Tide, str]) -> int: ...

def same(tide: TideVar) -> TideVar:
    level(tide)
    return tide
#- quiet
"#,
    );
}

#[test]
fn a_variable_with_the_same_constraints_stays_itself() {
    holds(
        r#"
from typing import AnyStr, Optional

def inner(text: Optional[AnyStr]) -> Optional[AnyStr]:
    return text

def outer(text: Optional[AnyStr]) -> Optional[AnyStr]:
    return inner(text)
#- quiet
"#,
    );
}

#[test]
fn open_takes_paths_and_numbers_of_files() {
    holds(
        r#"
import pathlib

open("berths.csv")  #= TextIOWrapper
open(pathlib.Path("berths.csv"), "rb")  #= BufferedReader
open(3, "w")  #= TextIOWrapper
open(None)  #! call.overload
open(2.5, "rb")  #! call.overload
"#,
    );
}

#[test]
fn next_asks_for_nothing_but_next() {
    holds(
        r#"
class Ticker:
    def __next__(self) -> int:
        return 3

next(Ticker())  #= int
next(3)  #! call.overload
"#,
    );
}

#[test]
fn a_union_with_an_unknown_part_fits() {
    holds(
        r#"
def name_of(vessel, known: bool) -> str:
    found = vessel.name if known else None
    return found

def take(name: str) -> None: ...

def give(vessel, known: bool) -> None:
    take(vessel.name if known else 3)
    names = [vessel.name, 3]
    taken: list[str] = names
#- quiet
"#,
    );
}

#[test]
fn parameters_without_names_are_counted() {
    holds(
        r#"
from typing import Callable

def ring(bell: Callable[[int, int], None]) -> None:
    bell(1)  #! call.missing "leaves out 1 argument"
"#,
    );
}

#[test]
fn a_class_method_may_be_called_on_a_subclass_with_another_constructor() {
    holds(
        r#"
class Vessel:
    def __init__(self):
        self.name = ""

    @classmethod
    def named(cls, name):
        return cls(name)

    def copy(self):
        return type(self)(self.name)

    def again(self):
        return self.__class__(self.name)
#- quiet
"#,
    );
}

#[test]
fn what_a_method_gives_back_of_itself_is_of_its_own_class() {
    holds(
        r#"
class Gate:
    def __enter__(self):
        return self

    def __exit__(self, *why):
        return None

    @classmethod
    def make(cls):
        return cls()

class Lock(Gate):
    width = 3

with Lock() as lock:
    lock  #= Lock
Lock.make()  #= Lock
Gate.make()  #= Gate
"#,
    );
}

#[test]
fn a_lambda_is_read_anew_by_each_overload() {
    holds(
        r#"
from typing import Callable, TypeVar, overload

T = TypeVar("T")

@overload
def watch(source: int, handler: Callable[[int], None]) -> int: ...
@overload
def watch(source: T, handler: Callable[[T], None]) -> T: ...
def watch(source, handler):
    return source

watch("tide", lambda line: None)  #= str
"#,
    );
}

#[test]
fn a_union_is_tried_by_constraint() {
    holds(
        r#"
import re

def pattern(text: str | bytes) -> None:
    re.compile(text)  #= Pattern[str] | Pattern[bytes]
"#,
    );
}

#[test]
fn a_helper_of_a_class_body_takes_no_receiver() {
    holds(
        r#"
class Lexer:
    def rule(word, state):
        return (word + " ", state)

    rules = [rule("port", "root"), rule("berth", "root")]

    def analyse(text):
        if "port" in text:
            return len(text)
#- quiet
"#,
    );
}

#[test]
fn what_cannot_be_called() {
    holds(
        r#"
import math

class Vessel: ...
class Bell:
    def __call__(self) -> int:
        return 3

Vessel()()  #! call.not-callable "cannot be called"
"Tern"()  #! call.not-callable
(1, 2)()  #! call.not-callable
math()  #! call.not-callable
Bell()()  #= int

class Mixin:
    def go(self) -> None:
        self()
"#,
    );
}

#[test]
fn an_argument_given_twice() {
    holds(
        r#"
def assign(berth, vessel=None, **more):
    return berth

assign(3, berth=4)  #! call.repeated "`berth` of `assign` is given twice"
assign(3, vessel=4)
assign(*[3], berth=4)  #! call.repeated
"#,
    );
}

#[test]
fn coroutines_are_awaited() {
    holds(
        r#"
import json

async def depart() -> int:
    return 3

async def arrive():
    return 3

async def day() -> None:
    depart()  #! call.unawaited "`depart()` makes a coroutine"
    arrive()  #! call.unawaited
    await depart()
    later = depart()
    await later
    json.dumps(3)
"#,
    );
}

#[test]
fn abstract_classes_make_no_objects() {
    holds(
        r#"
from abc import ABC, ABCMeta, abstractmethod

class Vessel(ABC):
    @property
    @abstractmethod
    def name(self) -> str: ...

    @abstractmethod
    def load(self) -> int: ...

class Barge(Vessel):
    def load(self) -> int:
        return 3

class Named(Barge):
    name = "Tern"

Vessel()  #! class.abstract "leaves `name`, `load` open"
Barge()  #! class.abstract "leaves `name` open"
Named()

class Plain(metaclass=ABCMeta):
    def load(self) -> int:
        return 3

Plain()
"#,
    );
}

#[test]
fn a_default_fits_its_parameter() {
    holds(
        r#"
def assign(berth: int = "three", name: str = "", old: str = None) -> None: ...  #! value.default "the default"  #! value.default "the default `None`"
"#,
    );
}

#[test]
fn a_call_that_no_overload_takes_is_told_once() {
    holds(
        r#"
from typing import Optional, overload

@overload
def berth_of(vessel: str) -> int: ...
@overload
def berth_of(vessel: int, tide: int) -> str: ...
def berth_of(vessel, tide=0):
    return vessel

berth_of("Tern")  #= int
berth_of(3, 4)  #= str
berth_of(2.5)  #! call.overload "none of the 2 signatures of `berth_of` takes these arguments"
berth_of()  #! call.overload
berth_of("Tern", bert=3)  #! call.overload
berth_of(2.5).upper()  #! call.overload

def moor(vessel: Optional[str]) -> None:
    berth_of(vessel)  #! none.argument
"#,
    );
}

#[test]
fn keywords_are_names_of_parameters() {
    holds(
        r#"
def assign(vessel, *, force=False): ...

assign("Tern", force=True)
assign("Tern", forc=True)  #! call.keyword "is `force` meant?"
assign(vesel="Tern")  #! call.keyword
assign("Tern", 3)  #! call.surplus "takes 1 positional argument, 2 given"
"#,
    );
}

#[test]
fn a_small_function_gives_back_what_a_call_passes() {
    holds(
        r#"
def same(x):
    return x

def pair(first, second=None):
    return first, second

def first(items):
    for item in items:
        return item
    raise ValueError(items)

class Fleet:
    def pick(self, names, place):
        return names[place]

    @staticmethod
    def sure(flag, text):
        return text if flag else ""

same(3)  #= int
same("north")  #= str
same(same)  #= (x) -> unknown
pair(1, second="x")  #= tuple[int, str]
first(["north"])  #= str
Fleet().pick({"a": 2.5}, "a")  #= float
same(*[3])  #= unknown
same(undefined)  #! name.undefined

@same
def kept(x: int) -> int:
    return x

kept("3")
"#,
    );
}

#[test]
fn literal_types_that_are_declared_pass_through_generic_calls() {
    holds(
        r#"
from collections import deque
from typing import Literal, TypeVar

T = TypeVar("T")
Way = Literal["out", "home"]

def ways() -> list[Way]: ...
def same(value: T) -> T: ...
def pair(one: T, other: T) -> list[T]: ...

def sail(way: Way, cars: int) -> None: ...

for way, cars in zip(ways(), [1, 2], strict=True):
    sail(way, cars)
for place, way in enumerate(deque(ways())):
    sail(way, place)

def use(way: Way):
    same(way)  #= Literal["out", "home"]
    sorted(ways())  #= list[Literal["out", "home"]]

same("out")  #= str
same(3)  #= int
pair("out", "home")  #= list[str]
list(["out"])  #= list[str]
"#,
    );
}

#[test]
fn coroutines_and_generators_have_names() {
    holds(
        r#"
async def sail() -> int:
    return 3

def tides():
    yield 3

sail().__qualname__  #= str
tides().__name__  #= str
sail().__port__  #! member.absent
"#,
    );
}

#[test]
fn constants_of_the_module_fit_by_their_literal() {
    holds(
        r#"
from typing import Literal

DEFAULT = "calm"
CHANGING = "calm"
CHANGING = "rough"


def sail(sea: Literal["calm", "rough"]) -> None: ...


def start() -> None:
    sail(DEFAULT)
    sail(CHANGING)  #! call.argument "does not fit `sea`"
"#,
    );
}

#[test]
fn keywords_from_a_typed_dictionary() {
    holds(
        r#"
from typing import NotRequired, TypedDict, Unpack


class Fare(TypedDict):
    port: str
    zones: NotRequired[int]


def sell(count: int, **fare: Unpack[Fare]) -> None:
    fare  #= Fare
    fare["port"]  #= str
    fare["price"]  #! index.range "price"


def resell(**fare: Unpack[Fare]) -> None:
    sell(2, **fare)


sell(1, port="Skerry", zones=2)
sell(1, port="Skerry", price=2)  #! call.keyword "no parameter `price`"
sell(1, zones=2)  #! call.missing "`port`"
sell(1, port=3)  #! call.argument "does not fit `port`"
"#,
    );
}

#[test]
fn each_part_of_a_union_answers_comparisons_for_itself() {
    holds(
        r#"
class Column:
    def __eq__(self, other: object) -> "Condition":
        return Condition()


class Condition:
    pass


def read(column: Column, number: int, given, fast: bool) -> None:
    one = column if fast else number
    one == 3  #= Condition | bool
    other = column if fast else given
    other == 3  #= Condition | unknown
"#,
    );
}

#[test]
fn what_is_passed_to_be_called_takes_what_it_will_be_given() {
    holds(
        r#"
from typing import Any, Callable, overload


def show(number: int) -> str: ...
def both(number: int, name: str) -> str: ...
def maybe(number: int, name: str = "") -> str: ...
def count(number: int) -> int: ...
def loose(number, *rest): ...
def none() -> str: ...


@overload
def either(what: str) -> str: ...
@overload
def either(what: int) -> str: ...
def either(what: Any) -> str:
    return ""


class Printer:
    def __init__(self, number: int) -> None: ...
    def __call__(self, number: int) -> str: ...
    def wrong(self, name: str) -> str: ...


class Text(str):
    def __init__(self, number: int) -> None: ...


def each(take: Callable[[int], str]) -> None: ...
def any_at_all(take: Callable[..., str]) -> None: ...


each(show)
each(both)  #! call.argument "it asks for `name`, which callers do not give"
each(maybe)
each(count)  #! call.argument "it gives `int`, not `str`"
each(loose)
each(none)  #! call.argument "it takes 0 arguments, and gets 1"
each(either)
each(Printer(1))
each(Printer(1).wrong)  #! call.argument "for `name` it takes `str`, not `int`"
each(Printer)  #! call.argument "it gives `Printer`, not `str`"
each(Text)
each(str)
any_at_all(both)
any_at_all(count)  #! call.argument "it gives `int`, not `str`"
held: Callable[[str], str] = show  #! value.assign "for `number` it takes `int`, not `str`"
"#,
    );
}

/// An abstract collection's class is called by the signature of whatever derives from it.
#[test]
fn classes_of_abstract_collections() {
    holds(
        r#"
#- quiet
from collections.abc import Mapping, Sequence, Set


def same(fares: Mapping[str, int], berths: Sequence[int], kind: type[Set[int]]) -> object:
    return [type(fares)(fares), type(berths)([3]), kind({3})]
"#,
    );
}
