//! The forms of annotations: what they take, and where they may stand.

use super::holds;

#[test]
fn forms_take_their_own_arguments() {
    holds(
        r#"
from collections.abc import Callable as Call
from enum import Enum
from typing import Annotated, Callable, ClassVar, List, Literal, Optional, Tuple, Type, TypeGuard, Union

class Tide(Enum):
    HIGH = 1

number = 3

a: Optional[int, str]  #! annotation.form "`Optional` takes one argument, not 2"
b: Optional  #! annotation.form "`Optional` says nothing without its arguments"
c: Callable[int]  #! annotation.form "a list of parameters (or `...`) and a result"
d: Call[int, str]  #! annotation.form "`Callable` takes a list"
e: Annotated[int]  #! annotation.form "at least one thing"
f: Literal[3.5]  #! annotation.form "what is written out"
g: Literal[number]  #! annotation.form
h: list[Literal[1 + 2]]  #! annotation.form
i: tuple[..., int]  #! annotation.form "only behind its one type"
j: tuple[int, str, ...]  #! annotation.form
k: Type[int, str]  #! annotation.form "`Type` takes one argument, not 2"
l: int or None  #! annotation.form "is `|` meant?"
m: "int or None"  #! annotation.invalid "what is quoted here names no type"
n: dict[str, Optional[int, str]]  #! annotation.form
o: Union[int, Callable]
def is_high(tide: object) -> TypeGuard: ...  #! annotation.form

p: Literal[3, -3, True, None, "north", b"south", Tide.HIGH, Literal["east"]]
q: Callable[..., int]
r: Callable[[int, str], None]
s: tuple[()]
t: Tuple[int, ...]
u: Annotated[Optional[int], "berths"]
v: "Optional[List[int]]" = None
Alias = Optional[int, str]  #! annotation.form
Right = Optional[int]
"#,
    );
}

#[test]
fn values_are_no_types() {
    holds(
        r#"
a: -3  #! annotation.invalid "a value stands where a type is expected"
b: {int}  #! annotation.invalid
c: f"in{3}t"  #! annotation.invalid
d: 3 < 4  #! annotation.invalid
e: b"int"  #! annotation.invalid
f: (lambda: int)  #! annotation.invalid
g: [int for _ in range(3)]  #! annotation.invalid
h: "the port it is bound for"  #! annotation.invalid "what is quoted here names no type"
i: "list["  #! annotation.invalid
"#,
    );
}

#[test]
fn qualifiers_stand_around_the_type_of_their_kind_of_variable() {
    holds(
        r#"
from dataclasses import dataclass
#- python 3.13
from typing import Annotated, ClassVar, Final, NotRequired, ReadOnly, Required, TypedDict

HARBOURS: Final = 3
BERTHS: Final[int] = 4
count: ClassVar[int] = 3  #! annotation.place "`ClassVar` stands around the whole type of a variable in a class body"
many: list[Final[int]] = []  #! annotation.place "`Final` stands around"
fare: Required[int]  #! annotation.place "a typed dictionary's item"

def assign(berth: Final[int], vessel: ClassVar[str]) -> Final[int]:  #! annotation.place #! annotation.place #! annotation.place
    limit: Final = 3
    deepest: ClassVar[int] = 3  #! annotation.place
    return berth + limit

class Vessel:
    fleet: ClassVar[int] = 0
    names: ClassVar[list[str]] = []
    marked: Annotated[ClassVar[int], "shared"] = 3
    odd: list[ClassVar[int]] = []  #! annotation.place
    item: NotRequired[int] = 3  #! annotation.place

    def __init__(self) -> None:
        self.length: Final[int] = 3
        self.width: ClassVar[int] = 3  #! annotation.place

@dataclass
class Leg:
    shared: ClassVar[Final[int]] = 3

class Fare(TypedDict):
    adult: Required[float]
    child: NotRequired[ReadOnly[float]]
    dog: Annotated[NotRequired[float], "on a lead"]
    bike: list[Required[float]]  #! annotation.place
"#,
    );
}

#[test]
fn self_needs_a_class_and_an_object() {
    holds(
        r#"
from typing import Self

def nearest(berth: Self) -> int:  #! annotation.place "there is none"
    return 3

class Berth:
    next: "Self | None" = None

    def __new__(cls) -> Self:
        return super().__new__(cls)

    def moved(self) -> Self:
        def inner(berth: Self) -> Self:
            return berth
        return inner(self)

    @classmethod
    def first(cls) -> Self:
        return cls()

    @staticmethod
    def last(berth: Self) -> int:  #! annotation.place "a static method has none"
        return 3

class Registry(type):
    def made(cls) -> Self:  #! annotation.place "metaclass"
        return cls
"#,
    );
}

#[test]
fn variables_for_parameters_stand_where_parameters_are() {
    holds(
        r#"
from typing import Callable, Concatenate, Generic, ParamSpec, Protocol, TypeAlias, TypeVar, TypeVarTuple, TypedDict

P = ParamSpec("P")
Ts = TypeVarTuple("Ts")
T = TypeVar("T")

def a(call: P) -> None: ...  #! annotation.place "parameters stand here where one type is expected"
def b(calls: list[P]) -> None: ...  #! annotation.place
def c(call: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    return call(*args, **kwargs)
def d(call: Callable[P, int], *args: P.args) -> None: ...  #! annotation.place "`*args: P.args, **kwargs: P.kwargs`"
def e(call: Callable[P, int], *args: P.kwargs, **kwargs: P.args) -> None: ...  #! annotation.place #! annotation.place
def f(call: Callable[P, int], args: P.args) -> None: ...  #! annotation.place
def g(call: Callable[Concatenate[int, P], int], *args: P.args, **kwargs: P.kwargs) -> int:
    return call(3, *args, **kwargs)
def h(call: Callable[Concatenate[P, int], int]) -> None: ...  #! annotation.form "`Concatenate` takes types"
def i(call: Concatenate[int, P]) -> None: ...  #! annotation.place
def j(*args: Ts) -> None: ...  #! annotation.place "is unpacked where it is used"
def k(*args: *Ts) -> tuple[*Ts]:
    return args
def l(args: tuple[Ts]) -> None: ...  #! annotation.place
def m(args: tuple[*Ts, *Ts]) -> None: ...  #! annotation.form "one part of any length"
def n(args: tuple[*tuple[int, ...], str]) -> None: ...
def o(args: list[*Ts]) -> None: ...  #! annotation.place "several types are unpacked"

class Task(Generic[P, T]):
    call: Callable[P, T]

def q(task: Task[[int, str], int], other: Task[..., int], third: Task[P, int]) -> None: ...
def r(made: Generic) -> None: ...  #! annotation.place "`Generic` is a base of classes"
def s(made: Protocol[T]) -> None: ...  #! annotation.place
def t(made: TypedDict) -> None: ...  #! annotation.place
def u(made: TypeAlias) -> None: ...  #! annotation.place "by the name of an alias"

Port: TypeAlias = "str | int"
"#,
    );
}

#[test]
fn type_comments_of_all_kinds_declare() {
    holds(
        r#"
from typing import Any, List, Optional, Tuple

def tides() -> Any: ...

for hour in tides():  # type: int
    hour  #= int
for port, depths in tides():  # type: str, List[float]
    port  #= str
    depths  #= list[float]
with tides() as table:  # type: List[int]
    table  #= list[int]
high, (low, name) = tides()  # type: int, Tuple[int, str]
high  #= int
low, (deep, name) = tides()  # type: int, (int, str)
name  #= str
nothing = None  # type: Optional[int]

def fare(cars, dogs):  # type: (int, str) -> float
    cars  #= int
    dogs  #= str
    return 3.0

fare(1, "2")  #= float
fare("1", "2")  #! call.argument

def load(cars,  # type: int
         name="",  # type: str
         *weights,  # type: float
         **marks  # type: bool
         ):
    # type: (...) -> int
    cars  #= int
    name  #= str
    weights  #= tuple[float, ...]
    marks  #= dict[str, bool]
    return "3"  #! value.return

class Vessel:
    def rename(self, name):
        # type: (str) -> str
        name  #= str
        return name

    def board(self, *names, **ages):
        # type: (*str, **int) -> None
        names  #= tuple[str, ...]
        ages  #= dict[str, int]
"#,
    );
}

/// A sign before a whole number is part of what is written out.
#[test]
fn literals_with_a_sign() {
    holds(
        r#"
from typing import Literal


def turn(direction: Literal[-1, +1] = +1) -> int:
    return direction  #= Literal[-1, 1]


turn(-1)
turn(+1)
turn(+2)  #! call.argument
+7  #= Literal[7]
"#,
    );
}
