//! Being quiet where nothing is sure.

use super::holds;

#[test]
fn whatever_may_be_none_under_a_handler_for_everything_is_caught() {
    holds(
        r#"
import re

def number(text: str) -> int:
    try:
        return int(re.match("[0-9]+", text).group())
    except Exception:
        return 0

def other(text: str) -> int:
    try:
        return int(re.match("[0-9]+", text).group())  #! none.member
    except ValueError:
        return 0
"#,
    );
}

#[test]
fn escapes_in_a_quoted_annotation_are_read_as_the_string_says() {
    holds(
        r#"
from typing import Literal

ENDING: "Literal['\\n', '\\r\\n']" = "\n"
WRONG: "Literal['\\n', '\\r\\n']" = "\r"  #! value.assign
"#,
    );
}

#[test]
fn the_package_of_a_module_in_a_package_is_a_text() {
    holds(
        r#"
__package__  #= str | None
#- ferry/__init__.py
__package__  #= str
#- ferry/fares.py
__package__  #= str
"#,
    );
}

#[test]
fn a_test_that_something_fails_is_left_alone() {
    holds(
        r#"
import unittest

class Case(unittest.TestCase):
    def test_sum(self) -> None:
        with self.assertRaises(TypeError):
            1 + "x"
        self.assertRaises(TypeError, lambda: 1 + "x")
        1 + "x"  #! operator.unsupported
"#,
    );
}

#[test]
fn code_for_another_version_is_not_checked() {
    holds(
        r#"
import sys

if sys.version_info >= (3, 8):
    class Runner:
        def run(self) -> int:
            return 3
else:
    class Runner:
        def run(self) -> int:
            return "three"
#- quiet
"#,
    );
}

#[test]
fn types_that_other_methods_assign_cannot_be_told_apart_here() {
    holds(
        r#"
class Log:
    def __init__(self):
        self.lines = 3

    def open(self):
        self.lines = "none"

    def show(self):
        self.lines.upper()
        self.lines + 1
        self.lines.missing()  #! member.absent
"#,
    );
}

#[test]
fn what_an_unannotated_function_gives_may_depend_on_its_arguments() {
    holds(
        r#"
def look(kind):
    if kind == "count":
        return 3
    return "none"

look("name").upper()
round(look("count"))

def said(kind: str) -> int | str:
    return 3 if kind else "none"

said("name").upper()  #! member.absent
"#,
    );
}

#[test]
fn casts_of_other_modules_take_values() {
    holds(
        r#"
import ffi

ffi.cast("HANDLE", 3)
#- ffi.py
def cast(kind, value):
    return value
#- quiet
"#,
    );
}

#[test]
fn comparing_what_is_not_known_may_give_anything() {
    holds(
        r#"
def settle(first, second):
    (first == second).all()
    (first < second).any()
#- quiet
"#,
    );
}

#[test]
fn a_mixin_is_what_it_is_mixed_into() {
    holds(
        r#"
class ListMixin:
    def size(self) -> int:
        return len(self) + len(list(self))
#- quiet
"#,
    );
}

#[test]
fn iteration_by_index_is_iteration() {
    holds(
        r#"
class Lines:
    def __len__(self) -> int:
        return 3

    def __getitem__(self, at: int) -> str:
        return "x"

", ".join(Lines())
#- quiet
"#,
    );
}

#[test]
fn methods_made_without_decorators_are_methods() {
    holds(
        r#"
class Trace:
    def error(cls, message):
        return message

    def plain(message):
        return message

    error = classmethod(error)
    plain = staticmethod(plain)

Trace.error("x")
Trace.plain("x")
Trace().error("x")
#- quiet
"#,
    );
}

#[test]
fn a_lambda_may_read_what_is_bound_later() {
    holds(
        r#"
show = lambda text: shown(text)

def shown(text):
    return text
#- quiet
"#,
    );
}

#[test]
fn a_class_that_is_passed_may_be_a_subclass_without_abstract_methods() {
    holds(
        r#"
from abc import ABC, abstractmethod

class Vessel(ABC):
    @abstractmethod
    def load(self) -> int: ...

def make(kind: type[Vessel]) -> Vessel:
    return kind()
#- quiet
"#,
    );
}

#[test]
fn what_a_function_inside_captures_is_no_receiver() {
    holds(
        r#"
class Vessel:
    def __init__(self, name: str) -> None: ...

def fleet(count: int) -> None:
    kind = Vessel

    def make() -> None:
        kind()  #! call.missing
        len(count)  #! class.protocol

class Desk:
    @staticmethod
    def close(hour: int) -> None:
        len(hour)  #! class.protocol

    def open(self) -> None:
        def later() -> int:
            return len(self)
"#,
    );
}

#[test]
fn every_use_of_none_is_caught_by_a_handler_for_everything() {
    holds(
        r#"
import re

def number(text: str) -> int:
    try:
        return int(re.match("[0-9]+", text)[0])
    except Exception:
        return 0
#- quiet
"#,
    );
}

#[test]
fn a_class_that_an_object_gives_may_be_a_subclass() {
    holds(
        r#"
#- quiet
class Vessel:
    def __init__(self, *parts):
        self.parts = parts

    @property
    def kind(self):
        return self.__class__

    def copy(self):
        return self.kind(*self.parts, deep=True)

class Ferry(Vessel):
    def __init__(self, *parts, deep=False):
        super().__init__(*parts)

def twice(vessel: Vessel):
    return vessel.kind(3, deep=True)
"#,
    );
}

#[test]
fn none_that_no_code_reckons_with_is_not_told() {
    holds(
        r#"
class Table:
    def __init__(self):
        self.rows = {}
        self.marks = {}

    def close(self):
        self.rows = None
        self.marks = None

    def put(self, key, value):
        self.rows[key] = value
        self.marks[key] = value  #! none.index
        return self.rows[key]

    def is_open(self):
        return self.marks is not None
"#,
    );
}

#[test]
fn what_a_class_leaves_to_its_subclasses_is_not_told() {
    holds(
        r#"
#- quiet
import os.path

class Source:
    def line(self):
        print("no line")

    def is_at(self, text):
        line = self.line()
        return self.line().lower() == text or line.upper() == text

class Log(Source):
    def line(self):
        return "log"

folder = os.path.dirname(os.path.__file__)
"#,
    );
}

#[test]
fn items_of_a_class_that_nobody_annotated_are_only_concluded() {
    holds(
        r#"
#- quiet
class Node:
    parent = None

class Element(Node):
    def __init__(self):
        self.children = []

    def __getitem__(self, key):
        if isinstance(key, str):
            return Node()
        return self.children[key]

def columns():
    table = Element()
    group = table[0]
    return group["cols"]
"#,
    );
}

#[test]
fn what_a_container_gave_back_is_only_concluded() {
    holds(
        r#"
#- quiet
class Cache:
    def __init__(self):
        self.links = {}
        self.converters = [None] * 4

    def add(self, key):
        link = ["x", 3, object()]
        self.links[key] = [link, link]

    def drop(self, key):
        link = self.links.pop(key)
        link[0][1] = link[1]
        return self.converters[0](key)

    def asave(self):
        return self.save()

class Stored(Cache):
    def save(self):
        return 1

def copy(parts):
    from collections.abc import Sequence
    if isinstance(parts, Sequence):
        return parts.__class__(list(parts)), type(parts)(parts)
"#,
    );
}

#[test]
fn strings_of_slots_are_no_types() {
    holds(
        r#"
from ferries import Ferry

Ferry().berth  #= int
#- ferries.pyi
class Ferry:
    __slots__ = ("_berth", "_name")
    __match_args__ = ("berth",)
    berth: int
"#,
    );
}

#[test]
fn what_typed_packages_do() {
    holds(
        r#"
from enum import Enum
from typing import AbstractSet, AnyStr, Final, Generic, Literal, Set

from marks import OFF, Mark

class Slice(Generic[AnyStr]):
    def __init__(self, text: AnyStr) -> None:
        self.text = text

    def count(self, part: AnyStr) -> int:
        return self.text.count(part)

def new(all_of: "dict[str, int]", known: "dict[str, int]") -> "set[str]":
    return all_of.keys() - known.keys()

def chosen(flag: bool) -> "Literal[Mark.OFF, False]":
    return OFF if flag else False

Kinds = Literal["ferry", "tug"]
def take(kinds: Set[Kinds]) -> None: ...
def look(kinds: AbstractSet[Kinds]) -> None: ...
look(frozenset({"ferry"}))
look(frozenset({"frery"}))  #! call.argument
take(set(["tug"]))
take(set(["tgu"]))  #! call.argument

def private(error: OSError) -> None:
    error._private_state()
#- marks.py
from enum import Enum
from typing import Final

class Mark(Enum):
    ON = 1
    OFF = 2

OFF: Final = Mark.OFF
"#,
    );
}

#[test]
fn what_a_default_makes_is_only_one_of_the_items() {
    holds(
        r#"
#- quiet
from collections import defaultdict

def sums(pairs):
    totals = defaultdict(list)
    for key, value in pairs:
        totals[key].append(value)
    for key in totals:
        totals[key] = sum(totals[key])
    for key, total in totals.items():
        total - 1
    totals.default_factory = lambda: 0
    return totals
"#,
    );
}

#[test]
fn a_tuple_with_items_of_its_own_may_have_more() {
    holds(
        r#"
from collections import namedtuple

class Place(namedtuple("Place", "north east")):
    def __getitem__(self, key):
        return (tuple(self) + ("up",))[key]

class Plain(namedtuple("Plain", "north east")):
    pass

Place(1, 2)[2]
Plain(1, 2)[2]  #! index.range
"#,
    );
}
