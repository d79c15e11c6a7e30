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

#[test]
fn what_stands_in_for_others_takes_the_signature_that_is_meant_for_it() {
    holds(
        r#"
from typing import Generic, Protocol, TypeVar, overload

T_co = TypeVar("T_co", covariant=True)

class Sea: ...

class Proxy:
    def __getattr__(self, name): return 1

class Remote(Proxy): ...

class Holds(Protocol[T_co]):
    @property
    def item(self) -> T_co: ...

class Box(Generic[T_co]):
    @property
    def item(self) -> T_co: raise ValueError

@overload
def plain(place: Sea) -> int: ...
@overload
def plain(place: Proxy) -> str: ...
def plain(place): ...

@overload
def held(place: Holds[Sea]) -> int: ...
@overload
def held(place: Holds[Proxy]) -> str: ...
def held(place): ...

class Said:
    @overload
    def __get__(self, at: Holds[Sea], owner) -> int: ...
    @overload
    def __get__(self, at: Holds[Proxy], owner) -> str: ...
    def __get__(self, at, owner): ...

class Named(Box[T_co]):
    said = Said()

def f(remote: Remote, box: Box[Remote], named: Named[Remote], sea: Sea) -> None:
    reveal_type(plain(remote))  #! reveal.type "the type is `str`"
    reveal_type(held(box))  #! reveal.type "the type is `str`"
    reveal_type(named.said)  #! reveal.type "the type is `str`"
    reveal_type(plain(sea))  #! reveal.type "the type is `int`"

@overload
def only(place: Sea) -> int: ...
@overload
def only(place: str) -> str: ...
def only(place): ...

def g(remote: Remote) -> None:
    only(remote)
    only(3)  #! call.overload
"#,
    );
}

#[test]
fn a_protocol_that_is_passed_makes_what_has_its_members() {
    holds(
        r#"
from typing import Awaitable, Callable, Protocol, TypeVar, overload

T = TypeVar("T")

class Moored(Protocol):
    def moor(self) -> None: ...

@overload
def made(by: Callable[..., Awaitable[T]]) -> list[T]: ...
@overload
def made(by: Callable[..., T]) -> set[T]: ...
def made(by): ...

def waits(by: Callable[..., Awaitable[T]]) -> T: ...

reveal_type(made(Moored))  #! reveal.type "the type is `set[Moored]`"
waits(Moored)  #! call.argument
"#,
    );
}

#[test]
fn a_signature_that_holds_something_unknown_leaves_open_which_one_it_is() {
    holds(
        r#"
from typing import overload
from skerry_tides import Gauge  #! import.unresolved

@overload
def read(place: list[Gauge]) -> int: ...
@overload
def read(place: list[str]) -> str: ...
def read(place): ...

def f(names: list[str], numbers: list[Gauge]) -> None:
    reveal_type(read(names))  #! reveal.type "the type is `unknown`"
"#,
    );
}

#[test]
fn a_function_is_the_callable_that_it_can_be_called_as() {
    holds(
        r#"
from typing import Callable, assert_type

def moored() -> int: ...
def at(place: str, /) -> int: ...
def by(place: str, *, hour: int = 3) -> int: ...

class Ferry:
    def sail(self, hours: float) -> None: ...

assert_type(moored, Callable[[], int])
assert_type(at, Callable[[str], int])
assert_type(at, Callable[[bytes], int])  #! assert.type
assert_type(moored, Callable[[], str])  #! assert.type
assert_type(by, Callable[[str], int])  #! assert.type
assert_type(Ferry().sail, Callable[[float], None])
assert_type(Ferry().sail, Callable[[], None])  #! assert.type
"#,
    );
}

#[test]
fn what_is_made_on_demand_makes_no_protocol_of_an_object_before_other_signatures() {
    holds(
        r#"
from typing import Protocol, overload

class Explained(Protocol):
    def explain(self) -> str: ...

class Counted(Protocol):
    def count(self) -> int: ...

class Proxy:
    def __getattr__(self, name): return 1
    def count(self) -> int: return 1

@overload
def told(by: Explained) -> str: ...
@overload
def told(by: Counted) -> int: ...
def told(by): ...

reveal_type(told(Proxy()))  #! reveal.type "the type is `int`"

held: dict[str, list[skerry.Tide] | None] = {}  #! name.undefined
held.get("north", []).sort()  #! none.member
"#,
    );
}

#[test]
fn a_method_of_a_generic_class_says_by_its_arguments_what_it_makes() {
    holds(
        r#"
from typing import Generic, Iterable, Self, Type, TypeVar

K = TypeVar("K")

class Hold(Generic[K]):
    item: K

    @classmethod
    def of(cls, item: K) -> Self: ...
    @classmethod
    def annotated(cls: Type[Self], items: Iterable[K]) -> Self: ...
    @classmethod
    def again(cls, item: K) -> Self:
        reveal_type(cls.again(item))  #! reveal.type "the type is `Hold[K]`"
        reveal_type(Hold.again(3))  #! reveal.type "the type is `Hold[int]`"
        return cls.again(item)

class Sub(Hold[K]): ...
class Named(Hold[str]): ...

reveal_type(Hold.of(3))  #! reveal.type "the type is `Hold[int]`"
reveal_type(Hold.of(3).item)  #! reveal.type "the type is `int`"
reveal_type(Hold.annotated("abc"))  #! reveal.type "the type is `Hold[str]`"
reveal_type(Sub.of(3))  #! reveal.type "the type is `Sub[int]`"
reveal_type(Named.of("a"))  #! reveal.type "the type is `Named`"
reveal_type(Hold[int].of(3))  #! reveal.type "the type is `Hold[int]`"
Named.of(3)  #! call.argument
Hold[int].of("a")  #! call.argument

wide: Hold[float] = Hold.of(3)
listed: list[Hold[float]] = [Hold.of(3)]
wrong: Hold[str] = Hold.of(3)  #! value.assign
"#,
    );
}

#[test]
fn of_an_argument_that_is_unknown_in_part_so_is_what_comes_of_it() {
    holds(
        r#"
def boarded(lists, crew):
    names = ["Isla"] if crew else lists
    sorted(names)  #= list[str | unknown]
    set(names)  #= set[str | unknown]
    for name in sorted(names):
        name.berth
    for name in sorted(["Isla"]):
        name.berth  #! member.absent
"#,
    );
}
