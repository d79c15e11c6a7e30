//! Decorators and variables for parameters (PEP 612; typing specification, "Generics").

use super::holds;

#[test]
fn decorators_keep_or_change_signatures_as_declared() {
    holds(
        r#"
from typing import Any, Callable, Concatenate, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")
F = TypeVar("F", bound=Callable[..., Any])

def logged(call: Callable[P, R]) -> Callable[P, R]:
    def inner(*args: P.args, **kwargs: P.kwargs) -> R:
        return call(*args, **kwargs)
    return inner

def retried(times: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    def wrap(call: Callable[P, R]) -> Callable[P, R]:
        return call
    return wrap

def marked(name: str) -> Callable[[F], F]: ...
def listed(call: Callable[P, R]) -> Callable[P, list[R]]: ...
def with_berth(call: Callable[Concatenate[int, P], R]) -> Callable[P, R]: ...

@logged
def fare(cars: int, *, deck: str = "") -> float: ...

@retried(3)
def toll(cars: int) -> float: ...

@marked("tide")
def tide(hour: int) -> float: ...

@listed
def sail(port: str) -> int: ...

@with_berth
def dock(berth: int, vessel: str) -> bytes: ...

fare  #= (cars: int, *, deck: str = ...) -> float
fare(1, deck="upper")  #= float
fare("one")  #! call.argument "does not fit `cars` of `fare`"
fare(1, dekc="")  #! call.keyword "`dekc`"
toll("one")  #! call.argument "`toll`"
tide("seven")  #! call.argument "`tide`"
sail("Skerry")  #= list[int]
sail(3)  #! call.argument "does not fit `port` of `sail`"
dock("Tern")  #= bytes
dock(3, "Tern")  #! call.surplus
"#,
    );
}

#[test]
fn methods_are_decorated_as_functions_are() {
    holds(
        r#"
from typing import Callable, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")

def logged(call: Callable[P, R]) -> Callable[P, R]: ...
def listed(call: Callable[P, R]) -> Callable[P, list[R]]: ...

class Vessel:
    @logged
    def load(self, cars: int) -> str: ...

    @listed
    def sail(self, port: str) -> int: ...

Vessel().load(1)  #= str
Vessel().load("one")  #! call.argument "does not fit `cars`"
Vessel().sail("Skerry")  #= list[int]
Vessel().sail(3)  #! call.argument "does not fit `port`"
"#,
    );
}

#[test]
fn classes_may_stand_for_what_they_decorate() {
    holds(
        r#"
from typing import Callable, Generic, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")

class Task(Generic[P, R]):
    def __init__(self, call: Callable[P, R]) -> None: ...
    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> R: ...
    def later(self, *args: P.args, **kwargs: P.kwargs) -> "Task[P, R]": ...

@Task
def sail(port: str) -> int: ...

sail  #= Task[(port: str), int]
sail("Skerry")  #= int
sail(3)  #! call.argument "does not fit `port`"
sail.later(3)  #! call.argument "does not fit `port`"

def use(one: Task[[int, str], bool], other: Task[..., bool]) -> None:
    one(1, "a")  #= bool
    one("a", 1)  #! call.argument
    other(1, 2, three=3)  #= bool
"#,
    );
}

#[test]
fn arguments_are_passed_on_by_variables_for_parameters() {
    holds(
        r#"
from typing import Callable, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")

def run(call: Callable[P, R], *args: P.args, **kwargs: P.kwargs) -> R:
    return call(*args, **kwargs)

def sail(port: str, cars: int = 0) -> bytes: ...

class Vessel:
    def __init__(self, name: str) -> None: ...

run(sail, "Skerry")  #= bytes
run(sail, "Skerry", cars=3)  #= bytes
run(sail, 3)  #! call.argument "does not fit `port`"
run(sail)  #! call.missing "`port`"
run(sail, "Skerry", deck=3)  #! call.keyword "`deck`"
run(Vessel, "Tern")  #= Vessel
run(Vessel, 3)  #! call.argument "does not fit `name`"
run(print, 1, 2)

def again(call: Callable[P, R], *args: P.args, **kwargs: P.kwargs) -> R:
    if args:
        return again(call, *args, **kwargs)
    return run(call, *args, **kwargs)
"#,
    );
}

#[test]
fn context_managers_keep_their_parameters() {
    holds(
        r#"
from contextlib import asynccontextmanager, contextmanager
from typing import AsyncIterator, Iterator

@contextmanager
def moored(berth: int) -> Iterator[str]:
    yield ""

@asynccontextmanager
async def sailing(port: str) -> AsyncIterator[bytes]:
    yield b""

with moored(3) as name:
    name  #= str
with moored("three") as name:  #! call.argument "does not fit `berth` of `moored`"
    pass

async def go():
    async with sailing("Skerry") as tide:
        tide  #= bytes
    async with sailing(3):  #! call.argument "does not fit `port`"
        pass
"#,
    );
}

#[test]
fn static_and_class_methods_are_bound_under_decorators_too() {
    holds(
        r#"
from contextlib import contextmanager
from typing import Callable, Iterator, ParamSpec, TypeVar, overload

P = ParamSpec("P")
R = TypeVar("R")

def listed(call: Callable[P, R]) -> Callable[P, list[R]]: ...

class Vessel:
    @staticmethod
    @listed
    def knots(speed: float) -> float: ...

    @classmethod
    @contextmanager
    def chartered(cls, name: str) -> Iterator[int]:
        yield 3

    @overload
    def find(self, key: int) -> int: ...
    @overload
    def find(self, key: str) -> str: ...
    @listed
    def find(self, key):
        return key

Vessel.knots(3.0)  #= list[float]
Vessel().knots(3.0)  #= list[float]
Vessel().knots("fast")  #! call.argument "`speed`"
with Vessel.chartered("Tern") as number:
    number  #= int
Vessel().find("Tern")  #= str
"#,
    );
}

#[test]
fn partial_keeps_what_is_left_to_be_passed() {
    holds(
        r#"
from functools import partial


def assign(vessel: str, berth: int, tide: float = 0.5, *, force: bool = False) -> str: ...


class Vessel:
    def __init__(self, name: str, cars: int) -> None: ...


def each(take: "partial[str]") -> None: ...


named = partial(assign, "Gannet")
named(3)  #= str
named(3, 1.5, force=True)
named("3")  #! call.argument
named()  #! call.missing
named(3, 1.5, 2)  #! call.surplus
named.func
each(named)
each(partial(len))  #! call.argument
moored = partial(assign, berth=3)
moored("Gannet")
moored("Gannet", 4)  #! call.surplus
moored("Gannet", berth=4)
partial(assign, 3)  #! call.argument "does not fit `vessel`"
partial(assign, bert=3)  #! call.keyword
built = partial(Vessel, "Gannet")
built(12)  #= Vessel
built("12")  #! call.argument


class Mooring:
    def __call__(self, vessel: str, berth: int) -> str: ...


partial(Mooring(), "Gannet")(3)  #= str
partial(Mooring(), "Gannet")("3")  #! call.argument
unknown = partial(*[assign])
unknown("Gannet", 4)
"#,
    );
}

#[test]
fn cached_functions_take_what_they_took() {
    holds(
        r#"
from functools import cache, lru_cache, singledispatch


@lru_cache(maxsize=None)
def draught(vessel: str) -> float: ...


@lru_cache
def length(vessel: str, *, loaded: bool = False) -> float: ...


class Tides:
    @cache
    def at(self, hour: int) -> float: ...


draught("Gannet")  #= float
draught(3)  #! call.argument
draught.cache_clear()
length("Gannet", loaded=True)  #= float
length("Gannet", True)  #! call.surplus
Tides().at(3)  #= float
Tides().at("3")  #! call.argument
Tides().at()  #! call.missing


@singledispatch
def shown(what, width: int = 3) -> str: ...


@shown.register
def _(what: int, width: int = 3) -> str: ...


@shown.register(str)
def shown_text(what, width: int = 3) -> str: ...


shown(3)  #= str
shown("3", width=4)
shown()  #! call.missing
shown_text("3")  #= str
"#,
    );
}
