//! Type variables where they are used (typing specification, "Generics": scoping rules, variance), and deprecation.

use super::holds;

#[test]
fn arguments_within_bounds_and_constraints() {
    holds(
        r#"
from typing import Generic, TypeVar

NumberT = TypeVar("NumberT", bound=float)
TextT = TypeVar("TextT", str, bytes)


class Row(Generic[NumberT]): ...


class Log(Generic[TextT]): ...


class Name(str): ...


def read(
    one: Row[int],
    two: Row[str],  #! generic.bound "`str` cannot stand for `NumberT`, which must fit `float`"
    three: Log[bytes],
    four: Log[Name],  #! generic.bound "can only be `str` or `bytes`"
    five: dict[str],  #! generic.arguments "`dict` takes 2 type arguments, 1 given"
) -> None: ...


class Box[T: (int, str)]: ...


box: Box[float]  #! generic.bound "can only be `int` or `str`"
"#,
    );
}

#[test]
fn variables_that_mean_nothing() {
    holds(
        r#"
from collections.abc import Callable
from typing import Generic, TypeVar

T = TypeVar("T")
S = TypeVar("S")

last: list[T] = []  #! generic.scope "means nothing here"


def lost() -> list[T]:  #! generic.result "in the result only"
    return []


def found(item: T) -> list[T]:
    copies: list[T] = [item]
    others: list[S] = []  #! generic.scope "means nothing here"

    def inner() -> T:
        return item

    return copies


def decorator() -> Callable[[T], T]:
    return lambda item: item


class Outer(Generic[T]):
    kept: T
    other: list[S]  #! generic.scope "means nothing here"

    def give(self) -> T:
        return self.kept

    class Inner(Generic[T]): ...  #! generic.scope "already means something in `Outer`"


class Crate[U]:
    kept: U

    def give(self) -> U:
        return self.kept


def made[V](kind: type[V]) -> V:
    one: V = kind()
    return one
"#,
    );
}

#[test]
fn variance_against_what_is_said() {
    holds(
        r#"
from collections.abc import Callable
from typing import Generic, Protocol, TypeVar

T_co = TypeVar("T_co", covariant=True)
T_contra = TypeVar("T_contra", contravariant=True)


class Source(Generic[T_co]):
    def __init__(self, first: T_co) -> None: ...

    def next(self) -> T_co:
        raise StopIteration

    def each(self, call: Callable[[T_co], None]) -> None: ...

    def push(self, item: T_co) -> None: ...  #! generic.variance "`T_co` is taken here"


class Sink(Protocol[T_contra]):
    def put(self, item: T_contra) -> None: ...
    def last(self) -> T_contra: ...  #! generic.variance "`T_contra` is given here"

"#,
    );
}

#[test]
fn what_is_deprecated() {
    holds(
        r#"
#- harbour.py
from typing import overload

from typing_extensions import deprecated


@deprecated("use berths instead")
def piers() -> int:
    return 3


@deprecated("use Ferry")
class Boat: ...


class Ferry:
    @deprecated("ask the purser")
    def fare(self) -> float:
        return 2.5

    @overload
    def load(self, weight: int) -> None: ...
    @overload
    @deprecated("give the weight in tonnes")
    def load(self, weight: str) -> None: ...
    def load(self, weight: object) -> None: ...


#- main.py
from harbour import Boat, Ferry, piers  #! deprecated.use "Boat"  #! deprecated.use "piers"

piers()  #! deprecated.use "`piers` is deprecated: use berths instead"
boat = Boat()  #! deprecated.use "`Boat` is deprecated: use Ferry"


def sail(ferry: Ferry) -> None:
    ferry.fare()  #! deprecated.use "`Ferry.fare` is deprecated: ask the purser"
    ferry.load(3)
    ferry.load("heavy")  #! deprecated.use "give the weight in tonnes"
"#,
    );
}

#[test]
fn type_variables_are_defined_without_contradiction() {
    holds(
        r#"
from typing import Generic, ParamSpec, Protocol, TypeVar
from typing_extensions import TypeVar as Default

A = TypeVar("B")  #! generic.definition "is called `A` here and says that it is `B`"
C = TypeVar("C", int)  #! generic.definition "is `bound=` meant?"
D = TypeVar("D", int, str, bound=object)  #! generic.definition "a bound or constraints, not both"
E = TypeVar("E", covariant=True, contravariant=True)  #! generic.definition "not both"
T = TypeVar("T")
F = TypeVar("F", bound=list[T])  #! generic.definition "cannot depend on another one, `T`"
G = Default("G", bound=str, default=int)  #! generic.definition "its default `int` is not within its limit `str`"
H = Default("H", int, str, default=bool)  #! generic.definition
I = Default("I", bound=float, default=int)
P = ParamSpec("Q")  #! generic.definition

class One(Generic[T, T]): ...  #! generic.definition "`T` stands here twice"
class Two(Generic[int]): ...  #! generic.definition "this is none"
class Three(Generic[I, T]): ...  #! generic.definition "`T` has no default and stands behind `I`"
class Four(Generic[T], list[A]): ...  #! generic.definition "`A` is used in a base"
class Five(Protocol[T], Generic[T]): ...
class Six(Generic[T, I], dict[T, I]): ...
"#,
    );
}

#[test]
fn type_parameters_are_defined_without_contradiction() {
    holds(
        r#"
#- python 3.13
class One[T: (int,)]: ...  #! generic.definition "is `bound=` meant?"
class Two[T: str = int]: ...  #! generic.definition "not within its limit"
class Three[T = int, S]: ...  #! generic.definition "`S` has no default"
def four[T, S: list[T]](x: T, y: S) -> S: ...  #! generic.definition "cannot depend on another one"
type Five[T: (int, str) = bool] = list[T]  #! generic.definition
class Six[T: (int, str), S: object = str]: ...
"#,
    );
}

#[test]
fn aliases_take_their_arguments_in_the_order_of_their_statement() {
    holds(
        r#"
#- python 3.12
from typing import TypeAliasType, TypeVar

type Turned[A, B] = dict[B, A]
type Second[A, B] = list[B]
type Nested[A] = A | list[Nested[A]]
T = TypeVar("T")
Called = TypeAliasType("Called", list[T] | None, type_params=(T,))

def shown(turned: Turned[int, str], second: Second[int, str], nested: Nested[int], called: Called[int]) -> None:
    turned  #= dict[str, int]
    second  #= list[str]
    called  #= list[int] | None
    if not isinstance(nested, list):
        nested  #= int
"#,
    );
}
