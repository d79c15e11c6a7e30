//! Generics and protocols: what fits, and why not (typing specification, "Generics", "Protocols").

use super::holds;

#[test]
fn containers_that_can_be_written_to_hold_just_what_they_say() {
    holds(
        r#"
from collections.abc import Mapping, Sequence

class Vessel: ...
class Ferry(Vessel): ...

def total(prices: list[float]) -> float: ...
def read(prices: Sequence[float]) -> float: ...
def rate(fares: dict[str, int | None]) -> None: ...
def look(fares: Mapping[str, int | None]) -> None: ...
def moor(fleet: set[Vessel]) -> None: ...

def sell(prices: list[int], fares: dict[str, int], ferries: set[Ferry]) -> list[float]:
    total(prices)  #! generic.invariant "`2.5` could then be put among its `int`"
    read(prices)
    total(list(prices))
    rate(fares)  #! generic.invariant "None could then be put among its `int`"
    look(fares)
    moor(ferries)  #! generic.invariant "any `Vessel` could then be put among its `Ferry`"
    total([1, 2])
    wide: list[float] = prices  #! generic.invariant "which is declared as `list[float]`"
    return prices  #! generic.invariant "does not fit what `sell` declares to return"

def other(names: list[str]) -> None:
    total(names)  #! call.argument "`list[str]` does not fit `prices`"
"#,
    );
}

#[test]
fn members_of_protocols_are_compared() {
    holds(
        r#"
from typing import Protocol

class Floats(Protocol):
    name: str

    def draught(self) -> float: ...
    def load(self, cars: int, deck: str = "") -> None: ...

class Ferry:
    name = "Tern"

    def draught(self) -> int:
        return 3

    def load(self, cars: float, deck: str = "", heavy: bool = False) -> None: ...

class Buoy:
    name: str = "x"

    def draught(self) -> float:
        return 0.1

class Barge:
    name: int = 3

    def draught(self) -> float:
        return 0.1

    def load(self, cars: int, deck: str = "") -> None: ...

class Raft:
    name: str = ""

    def draught(self) -> str:
        return ""

    def load(self, cars: int, deck: str = "") -> None: ...

class Yacht:
    name: str = ""

    def draught(self) -> float:
        return 0.1

    def load(self, cars: int) -> None: ...

class Loose:
    name = None

    def draught(self):
        return ""

    def load(self, *args): ...

def moor(vessel: Floats) -> None: ...

moor(Ferry())
moor(Loose())
moor(Buoy())  #! class.protocol "it has no `load`"
moor(Barge())  #! class.protocol "of its `name`, it holds `int`, not `str`"
moor(Raft())  #! class.protocol "of its `draught`, it gives `str`, not `float`"
moor(Yacht())  #! class.protocol "of its `load`, it does not take `deck`"
vessel: Floats = Buoy()  #! class.protocol "declared as `Floats`; it has no `load`"
"#,
    );
}

#[test]
fn protocols_that_speak_of_themselves_come_to_an_end() {
    holds(
        r#"
from __future__ import annotations
from typing import Protocol

class Node(Protocol):
    def next(self) -> Node | None: ...
    def children(self) -> list[Node]: ...

class Berth:
    def next(self) -> Berth | None: ...
    def children(self) -> list[Node]: ...

class Pier:
    def next(self) -> int: ...
    def children(self) -> list[Node]: ...

def walk(node: Node) -> None: ...

walk(Berth())
walk(Pier())  #! class.protocol "of its `next`"
"#,
    );
}

#[test]
fn generic_aliases_take_their_variables() {
    holds(
        r#"
from typing import Any, Callable, Generic, TypeVar

T = TypeVar("T")
K = TypeVar("K")

Lists = dict[K, list[T]]
Maybe = T | None
Named = Lists[str, T]
Call = Callable[[T], K]

def use(a: Lists[str, int], b: Maybe[int], c: Named[bytes], d: Call[int, str], e: Lists, f: Named):
    a  #= dict[str, list[int]]
    b  #= int | None
    c  #= dict[str, list[bytes]]
    d  #= (int) -> str
    e  #= dict[unknown, list[unknown]]
    f  #= dict[str, list[unknown]]

class Berth(Generic[T]):
    def all(self, one: list[T]) -> Lists[str, T]: ...

Berth[int]().all([1])  #= dict[str, list[int]]
"#,
    );
}

#[test]
fn classes_take_as_many_arguments_as_they_have_variables() {
    holds(
        r#"
from typing import Generic, TypeVar

T = TypeVar("T")

class Berth(Generic[T]): ...

one: Berth[int]
two: Berth[int, str]  #! generic.arguments "`Berth` takes 1 type argument, 2 given"

def use(fares: dict[str, int, float]) -> None:  #! generic.arguments "`dict` takes 2 type arguments, 3 given"
    fares["child"]  #= int
"#,
    );
}

#[test]
fn what_variables_are_limited_to_is_asked_for_late() {
    holds(
        r#"
from __future__ import annotations

from typing import Any, Generic
from typing_extensions import TypeVar

ScalarT = TypeVar("ScalarT", bound="Reading", default=Any)
KindT = TypeVar("KindT", bound="Kind", default="Kind")
OtherT = TypeVar("OtherT", default=KindT)


class Reading: ...


class Kind(Generic[ScalarT]): ...


class Row(Generic[KindT, OtherT]):
    def kind(self) -> KindT:
        raise NotImplementedError

    def other(self) -> OtherT:
        raise NotImplementedError


class Depth(Reading): ...


def read(bare: Row, row: Row[Kind[Depth]]) -> None:
    bare.kind()  #= Kind[Any]
    bare.other()  #= Kind[Any]
    row.other()  #= Kind[Depth]
"#,
    );
}

#[test]
fn special_forms_go_by_any_name() {
    holds(
        r#"
from typing import Annotated as Noted, Literal as L

Mode = L["rough", "calm"]


def sail(mode: L["rough", "calm"], hours: Noted[int, "in local time"]) -> L["calm"]:
    mode  #= Literal["rough", "calm"]
    hours  #= int
    return "calm"
"#,
    );
}

#[test]
fn signatures_by_the_type_of_self() {
    holds(
        r#"
from typing import Generic, TypeVar, overload

T = TypeVar("T")
NumberT = TypeVar("NumberT", bound="Row[int] | Row[float]")


class Row(Generic[T]):
    @overload
    def total(self: "Row[str]") -> str: ...
    @overload
    def total(self: NumberT) -> NumberT: ...
    def total(self) -> object:
        raise NotImplementedError


def read(names: Row[str], depths: Row[float]) -> None:
    names.total()  #= str
    depths.total()  #= Row[float]
"#,
    );
}

#[test]
fn variance_is_inferred_from_what_a_class_takes_and_gives() {
    holds(
        r#"
class Port: ...


class Harbour(Port): ...


class Source[T]:
    def __init__(self, first: T) -> None:
        self._first = first

    def next(self) -> T:
        return self._first


class Sink[T]:
    def put(self, item: T) -> None: ...


class Box[T]:
    def __init__(self, item: T) -> None:
        self.item = item


class Pair[T]:
    def sources(self) -> Source[T]:
        raise NotImplementedError

    def sinks(self, into: Sink[T]) -> None: ...


def give(
    source: Source[Harbour], wide: Source[Port], sink: Sink[Harbour], any_sink: Sink[Port], box: Box[Harbour],
    pair: Pair[Harbour], wide_pair: Pair[Port],
) -> None:
    one: Source[Port] = source
    two: Source[Harbour] = wide  #! value.assign "does not fit `two`"
    three: Sink[Harbour] = any_sink
    four: Sink[Port] = sink  #! value.assign "does not fit `four`"
    five: Box[Port] = box  #! generic.invariant "does not fit `five`"
    six: Pair[Port] = pair
    seven: Pair[Harbour] = wide_pair  #! value.assign "does not fit `seven`"
"#,
    );
}

#[test]
fn types_in_strings_may_be_arguments_outside_of_annotations() {
    holds(
        r#"
from __future__ import annotations

from typing import Any, Callable, Generic, List, Type, TypeVar, Union

T = TypeVar("T")

Kept = Union[Type[T], "Berth[T]"]
Row = List[Union[str, "Berth[Any]", "tides.Tide"]]
Told = Callable[["Berth[str]"], "List[Berth[int]]"]


class Berth(Generic[T]):
    vessel: T


class Harbour(List["Berth[str]"]):
    pass


def read(kept: Kept[int], row: Row, told: Told, harbour: Harbour, data: dict) -> None:
    kept  #= type[int] | Berth[int]
    row  #= list[str | Berth[Any] | Tide]
    told(Berth())  #= list[Berth[int]]
    harbour[0].vessel  #= str


settings = {"tide[0]": 3}
settings["tide[0]"]
import tides
#- tides.py
class Tide:
    pass
"#,
    );
}

#[test]
fn tuples_of_variables() {
    holds(
        r#"
from collections.abc import Awaitable, Callable
from typing import Any, Generic, Literal, TypeVar, TypeVarTuple, Unpack, overload

T = TypeVar("T")
U = TypeVar("U")
Ts = TypeVarTuple("Ts")
Rest = TypeVarTuple("Rest")


def same(*values: *Ts) -> tuple[*Ts]:
    values  #= tuple[*Ts]
    return values


def later(call: Callable[[*Ts], T], *args: *Ts) -> T:
    same(*args)  #= tuple[*Ts]
    return call(*args)


def behind(row: tuple[T, *Ts]) -> tuple[*Ts, T]: ...
def ends(row: tuple[int, *Ts, str]) -> tuple[*Ts]: ...


async def moor(vessel: str, berth: int) -> float: ...
def show(vessel: str, berth: int = 0) -> str: ...
def nothing() -> None: ...
def twice(value: U) -> list[U]: ...


@overload
def opened(mode: Literal["r"]) -> str: ...
@overload
def opened(mode: Literal["rb"]) -> bytes: ...
@overload
def opened(mode: str) -> object: ...
def opened(mode: str) -> object: ...


same("Gannet", 3)  #= tuple[str, int]
same()  #= tuple[()]
mooring = later(moor, "Gannet", 3)  #= Coroutine[Any, Any, float]
later(moor, "Gannet", "3")  #! call.argument "does not fit argument 3 of `later`, which takes `int`"
later(moor, "Gannet")  #! call.argument "it asks for `berth`, which callers do not give"
later(show, "Gannet")  #= str
later(show, "Gannet", 4)  #= str
later(nothing, 3)  #! call.argument "it takes 0 arguments, and gets 1"
later(lambda vessel, berth: berth, "Gannet", 3)  #= int
later(opened, "r")  #= str
later(opened, "rb")  #= bytes
later(twice, 3)  #= list[int]
behind((1, "a", 2.5))  #= tuple[str, float, int]
ends((1, 2.5, b"", "a"))  #= tuple[float, bytes]
ends((1, 2.5))  #! call.argument


class Row(Generic[*Ts]):
    def __init__(self, *values: *Ts) -> None: ...
    def all(self) -> tuple[*Ts]: ...
    def call(self, take: Callable[[*Ts], T]) -> T: ...


class Keyed(Generic[T, Unpack[Ts]]):
    key: T
    values: tuple[Unpack[Ts]]


class Plain(Row[str, int]):
    pass


def read(row: Row[str, int], keyed: Keyed[bytes, str, int], plain: Plain, empty: Keyed[bytes]) -> None:
    row  #= Row[str, int]
    row.all()  #= tuple[str, int]
    row.call(show)  #= str
    row.call(nothing)  #! call.argument
    keyed.key  #= bytes
    keyed.values  #= tuple[str, int]
    plain.all()  #= tuple[str, int]
    empty.values  #= tuple[()]
    Row("a", 2.5).all()  #= tuple[str, float]


Pair = tuple[T, Row[*Ts]]


def loose(row: Row[Unpack[tuple[Any, ...]]]) -> None: ...


loose(Row(1, "a"))


def aliased(pair: Pair[int, str, bytes], fixed: "Fixed") -> None:
    pair[1].all()  #= tuple[str, bytes]


class Fixed:
    def put(self, *values: *tuple[int, str]) -> None:
        values  #= tuple[int, str]

    def put_more(self, *values: *tuple[int, *tuple[str, ...]]) -> None: ...


Fixed().put(1, "a")
Fixed().put(1, 2)  #! call.argument
Fixed().put(1)  #! call.missing
Fixed().put_more(1, "a", "b")
Fixed().put_more(1, "a", 2)  #! call.argument
Fixed().put_more("a")  #! call.argument


class Array[*Shape]:
    def shape(self) -> tuple[*Shape]: ...


def grow[*Shape, U](array: Array[*Shape], by: U) -> Array[U, *Shape]: ...


def use(array: Array[int, str]) -> None:
    grow(array, 2.5)  #= Array[float, int, str]
    grow(array, 2.5).shape()  #= tuple[float, int, str]
"#,
    );
}
