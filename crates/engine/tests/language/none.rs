//! The `none` family: uses of what may be None.

use super::holds;

#[test]
fn none_has_no_private_attributes_either() {
    holds(
        r#"
from typing import Optional

class Vessel:
    def _load(self) -> int:
        return 3

def load(vessel: Optional[Vessel]) -> int:
    return vessel._load()  #! none.member
"#,
    );
}

#[test]
fn operands() {
    holds(
        r#"
def total(extra: int | None, known: bool) -> int:
    if extra < 3:  #! none.operand "does not go with `<`"
        return 1
    return extra + 1

def sums(one: int | None, other: int) -> int:
    result = other - one  #! none.operand "`one` may be None"
    result  #= int
    return result

def checked(one: int | None) -> int:
    if one is None or one > 3:
        return 0
    return one + 1
"#,
    );
}

#[test]
fn an_operation_that_none_is_not_to_blame_for_is_unsupported() {
    holds(
        r#"
def total(extra: str | None) -> None:
    extra + 1  #! operator.unsupported
"#,
    );
}

#[test]
fn calls() {
    holds(
        r#"
from typing import Callable

class Desk:
    on_close: Callable[[], int] | None = None

    def close(self) -> int:
        return self.on_close()  #! none.call "`self.on_close` may be None"

    def shut(self) -> int:
        if self.on_close:
            return self.on_close()
        return 0
"#,
    );
}

#[test]
fn iteration_in_loops_and_comprehensions() {
    holds(
        r#"
def go(stops: list[str] | None, legs: list[str] | None) -> None:
    for stop in stops:  #! none.iteration "cannot be iterated"
        stop.upper()
    [leg for leg in legs]  #! none.iteration
    for leg in legs or []:
        leg.upper()
"#,
    );
}

#[test]
fn items() {
    holds(
        r#"
import re

def number(text: str) -> str:
    found = re.match("[0-9]+", text)
    return found[0]  #! none.index "`found` may be None"

def table(rows: list[int] | None) -> int:
    return rows[0] if rows else 0
"#,
    );
}

#[test]
fn arguments() {
    holds(
        r#"
def assign(berth: int) -> None: ...
def free(berth: int | None) -> None: ...

def moor(berth: int | None, name: str | None) -> None:
    free(berth)
    assign(name)  #! call.argument
    assign(berth)  #! none.argument "does not fit `berth` of `assign`"
"#,
    );
}

#[test]
fn told_once_for_a_value() {
    holds(
        r#"
def show(name: str | None) -> None:
    name.upper()  #! none.member
    name[0]
    name + "x"
    for letter in name:
        letter.upper()
"#,
    );
}

#[test]
fn elements_of_containers_that_nobody_declared_are_left_alone() {
    holds(
        r#"
def manifest():
    line = {"count": 3, "captain": None}
    line["count"] + 1
    line["captain"][0]
    line["captain"]()
    for part in line["captain"]:
        print(part)
#- quiet
"#,
    );
}

#[test]
fn a_value_that_does_not_fit_is_at_least_not_none() {
    holds(
        r#"
from typing import Optional


class Berth:
    vessel: Optional[str] = None

    def moor(self, number: int) -> None:
        self.vessel = number  #! value.assign
        self.vessel  #= str
"#,
    );
}

#[test]
fn what_is_declared_as_none_stays_that() {
    holds(
        r#"
class Berth:
    vessel: None = None

    def moor(self, number: int) -> None:
        self.vessel = number  #! value.assign
        self.vessel  #= None
        print("moored")
"#,
    );
}
