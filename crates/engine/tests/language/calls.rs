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
fn next_asks_for_nothing_but_next() {
    holds(
        r#"
class Ticker:
    def __next__(self) -> int:
        return 3

next(Ticker())  #= int
next(3)  #! call.argument
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
