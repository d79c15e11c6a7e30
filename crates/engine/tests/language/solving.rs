//! What type variables stand for.

use super::holds;

#[test]
fn of_several_constraints_the_narrowest_is_meant() {
    holds(
        r#"
from collections.abc import Sequence
from typing import TypeVar, assert_type

Key = TypeVar("Key", int, Sequence, str, None)

def listed(key: Key) -> list[Key]: ...
def of(kind: type[Key]) -> list[Key]: ...

assert_type(listed("north"), list[str])
assert_type(of(str), list[str])
assert_type(listed([3]), list[Sequence])
assert_type(listed(True), list[int])
#- quiet
"#,
    );
}

#[test]
fn a_generic_class_that_is_passed_says_nothing_of_its_arguments() {
    holds(
        r#"
from typing import TypeVar, assert_type

A = TypeVar("A")
B = TypeVar("B")

def both(one: type[A], other: type[B]) -> tuple[A, B]: ...

assert_type(both(int, list), tuple[int, list])
assert_type(both(dict, tuple), tuple[dict, tuple])
assert_type(both(int, str), tuple[int, bytes])  #! assert.type
"#,
    );
}

#[test]
fn variables_of_an_annotated_self_are_solved_by_the_arguments() {
    holds(
        r#"
from typing import Any, Generic, TypeVar, assert_type, overload

Error = TypeVar("Error", bound=BaseException, covariant=True)
Own = TypeVar("Own", bound=Exception, covariant=True)

class Expected(Generic[Error]):
    @overload
    def __init__(self: "Expected[Own]", kind: type[Own], /) -> None: ...
    @overload
    def __init__(self: "Expected[ExceptionGroup[Own]]", kind: "Expected[Own]", /) -> None: ...
    def __init__(self, kind: Any) -> None: ...

assert_type(Expected(ValueError), Expected[ValueError])
assert_type(Expected(Expected(ValueError)), Expected[ExceptionGroup[ValueError]])
assert_type(Expected(ValueError), Expected[OSError])  #! assert.type
"#,
    );
}

#[test]
fn what_a_class_holds_is_bound_to_its_objects_with_their_type() {
    holds(
        r#"
from collections.abc import Awaitable, Callable
from typing import Concatenate, ParamSpec, TypeVar, assert_type

P = ParamSpec("P")
Own = TypeVar("Own", bound="Place")

def wrapped(function: Callable[Concatenate[str, P], str]) -> Callable[Concatenate[Own, P], Awaitable[Own]]: ...

class Place:
    joined = wrapped(str.removeprefix)

class Pier(Place): ...

async def go(place: Place, pier: Pier) -> None:
    assert_type(await place.joined("north"), Place)
    assert_type(await pier.joined("north"), Pier)
    await pier.joined(3)  #! call.argument
"#,
    );
}

#[test]
fn guards_of_classes_ask_as_those_of_instances_do() {
    holds(
        r#"
from typing import Any, TypeIs, assert_type, final
#- python 3.13

class Record: ...

def is_record_type(kind: Any) -> TypeIs[type[Record]]: ...

class Fare(Record): ...

@final
class Other: ...

def check(kind: type[Fare] | type[Other]) -> None:
    if is_record_type(kind):
        assert_type(kind, type[Fare])
    else:
        assert_type(kind, type[Other])

def assigned() -> None:
    kind: type[Fare] | type[Other] = Fare
    if is_record_type(kind):
        assert_type(kind, type[Fare])
    else:
        # Nothing is left of it: this does not run.
        assert_type(kind, type[Other])
#- quiet
"#,
    );
}

#[test]
fn what_has_a_base_that_is_not_known_may_fit_several_signatures() {
    holds(
        r#"
from typing import overload
from skerry_tides import Gauge  #! import.unresolved

class Own(Gauge): ...

class Sea: ...

@overload
def read(place: Sea) -> int: ...
@overload
def read(place: str) -> str: ...
def read(place): ...

reveal_type(read(Sea()))  #! reveal.type "the type is `int`"
reveal_type(read(Own()))  #! reveal.type "the type is `unknown`"
"#,
    );
}
