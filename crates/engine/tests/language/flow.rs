//! Control flow: what is reached, and what holds there.

use super::holds;

#[test]
fn a_handler_does_not_see_what_nothing_could_interrupt() {
    holds(
        r#"
def decoded(text: bytes | str) -> str:
    if isinstance(text, bytes):
        try:
            text = text.decode("ascii")
        except UnicodeError:
            text = text.decode("latin-1")
    text  #= str
    return text
"#,
    );
}

#[test]
fn a_handler_sees_what_was_assigned_before_something_else_failed() {
    holds(
        r#"
def read(path: str) -> None:
    count: int | None = None
    try:
        open(path)
        count = 3
        open(path)
    except OSError:
        count  #= int | None
    # What cannot fail is done whatever comes after it.
    depth: int | None = None
    try:
        depth = 3
        open(path)
    except OSError:
        depth  #= int
"#,
    );
}

#[test]
fn a_constant_of_the_version_decides_branches_of_its_own_module() {
    holds(
        r#"
import sys

PY3 = sys.version_info[0] >= 3
py = sys.version_info
new = py.major > 2

if PY3:
    text = str
else:
    text = unicode

def decode(value, _new=new):
    if not new:
        return unicode(value)
    if not _new:
        return unicode(value)
    return text(value)
#- quiet
"#,
    );
}

#[test]
fn a_constant_of_the_version_decides_branches_of_importers() {
    holds(
        r#"
from compat import OLD, PY3

if OLD:
    number = long
if not PY3:
    number = long
number = int  #= type[int]
#- compat.py
import sys

OLD = str is bytes
if sys.version_info < (3,):
    PY3 = False
else:
    PY3 = True
"#,
    );
}

#[test]
fn a_flag_that_is_merely_false_decides_nothing() {
    holds(
        r#"
DEBUG = False

def report() -> None:
    if DEBUG:
        fares  #! name.undefined
"#,
    );
}

#[test]
fn a_flag_that_is_assigned_again_decides_nothing() {
    holds(
        r#"
import sys

OLD = sys.version_info < (3,)
OLD = bool(sys.argv)

def report() -> None:
    if OLD:
        fares  #! name.undefined
"#,
    );
}

#[test]
fn an_end_that_no_return_leads_to() {
    holds(
        r#"
from abc import ABC, abstractmethod
from typing import NoReturn, Optional, Protocol

def berth(name: str) -> int:  #! flow.missing-return "`berth` may end without a `return`"
    if name:
        return 3

def looped(names: list[str]) -> str:  #! flow.missing-return
    for name in names:
        return name

def forever() -> int:
    while True:
        if input():
            return 3

def raising(name: str) -> int:
    if name:
        return 3
    raise KeyError(name)

def stop() -> NoReturn:
    raise SystemExit

def stopping(name: str) -> int:
    if name:
        return 3
    stop()

def perhaps(name: str) -> Optional[int]:
    if name:
        return 3

def nothing() -> None:
    print("x")

async def later(name: str) -> int:  #! flow.missing-return
    if name:
        return 3

class Shape(ABC):
    @abstractmethod
    def area(self) -> int:
        """The area."""

    def name(self) -> str: ...

class Sized(Protocol):
    def size(self) -> int:
        ...
"#,
    );
}

#[test]
fn names_that_are_not_bound_on_every_way() {
    holds(
        r#"
def flag(speed: int) -> str:
    if speed > 20:
        colour = "red"
    elif speed > 10:
        colour = "amber"
    print(colour)  #! name.maybe-unbound "`colour` is not bound on every way"
    return colour

def last(names: list[str]) -> str:
    for name in names:
        pass
    return name  #! name.maybe-unbound

def first() -> int:
    number = count  #! name.unbound "nothing is bound to `count`"
    count = 3
    return number + count

def opened(path: str) -> str:
    try:
        file = open(path)
    except OSError:
        return ""
    return file.read()

def tried(path: str) -> str:
    try:
        text = open(path).read()
    except OSError:
        print(path)
    return text  #! name.maybe-unbound

def gone() -> None:
    count = 3
    del count
    print(count)  #! name.unbound

def sure(speed: int) -> str:
    while True:
        if speed:
            colour = "red"
            break
    return colour

def exits(speed: int) -> str:
    if speed:
        colour = "red"
    else:
        raise SystemExit
    return colour
"#,
    );
}

#[test]
fn what_a_module_does_not_bind_may_be_a_builtin() {
    holds(
        r#"
import sys

if len(sys.argv) > 3:
    input = len
input

try:
    unicode
except NameError:
    unicode = str
#- quiet
"#,
    );
}

#[test]
fn a_match_that_handles_every_member_is_complete() {
    holds(
        r#"
from enum import Enum

class Sea(Enum):
    CALM = 1
    ROUGH = 2
    STORM = 3

def advice(sea: Sea) -> str:
    match sea:
        case Sea.CALM:
            return "sail"
        case Sea.ROUGH | Sea.STORM:
            return "stay"

def chain(sea: Sea) -> str:
    if sea is Sea.CALM:
        return "sail"
    elif sea in (Sea.ROUGH, Sea.STORM):
        return "stay"

def open_chain(sea) -> str:  #! flow.missing-return
    if sea is Sea.CALM:  #! flow.incomplete-match "`Literal[Sea.STORM]` is left out"
        return "sail"
    elif sea is Sea.ROUGH:
        return "wait"
"#,
    );
}

#[test]
fn functions_are_not_conditions() {
    holds(
        r#"
from typing import Callable, Optional

class Vessel:
    def is_full(self) -> bool:
        return True

def board(vessel: Vessel, bell: Optional[Callable[[], int]]) -> int:
    if vessel.is_full:  #! operator.condition "always true"
        return 0
    if bell:
        return bell()
    while vessel.is_full():
        return 2
    return 1
"#,
    );
}

#[test]
fn code_behind_the_end_is_noted_once() {
    holds(
        r#"
import sys
from typing import NoReturn

def fail() -> NoReturn:
    raise SystemExit(3)

def depart(full):
    if full:
        return "now"
        print("left")  #! flow.unreachable
        print("again")
    else:
        raise ValueError(full)
    print("later")  #! flow.unreachable "this is never reached"

def wait():
    while True:
        print("waiting")
    print("done")  #! flow.unreachable

def stop():
    fail()
    print("done")  #! flow.unreachable "the call before it does not return"

def leave(port):
    for stop in port:
        continue
        print(stop)  #! flow.unreachable

def opened(path):
    with open(path) as lines:
        return lines.read()
    print("closed")  #! flow.unreachable
"#,
    );
}

#[test]
fn code_that_is_meant_not_to_be_reached_is_not_noted() {
    holds(
        r#"
#- quiet
import sys
from typing import TYPE_CHECKING, Iterator

def empty() -> Iterator[int]:
    return
    yield

def old():
    if sys.version_info < (3, 0):
        print("old")
    if sys.platform == "win32":
        return 3
    if False:
        print("off")
    if not TYPE_CHECKING:
        print("run")

def version():
    if sys.version_info >= (3, 0):
        return 3
    else:
        return 4
    print("rest")

def kind(port: int):
    if isinstance(port, int):
        return 3
    raise TypeError(port)

def known(port: int) -> str:
    if isinstance(port, int):
        return "number"
    return str(port)

def defended():
    raise NotImplementedError
    return NotImplemented
"#,
    );
}

#[test]
fn generators_yield_what_they_declare() {
    holds(
        r#"
from typing import AsyncIterator, Generator, Iterable, Iterator, Optional

def berths(count: int) -> Iterator[int]:
    yield count
    yield "three"  #! value.yield "does not fit what `berths` declares to yield, `int`"
    yield  #! value.yield
    yield from [1, 2]
    yield from ["a"]  #! value.yield

def talk() -> Generator[int, str, bool]:
    answer = yield 3
    answer  #= str
    if answer:
        return "no"  #! value.return
    return True

async def tides() -> AsyncIterator[float]:
    yield 2.5
    yield 3
    yield "high"  #! value.yield

def number() -> int:  #! value.return "does not fit what `number` declares to return"
    yield 3
    yield 4

def lists() -> Iterable[list[float]]:
    yield [1, 2]
    yield []

def anything() -> object:
    yield 3

def unsaid():
    yield 3
    yield "three"
"#,
    );
}

#[test]
fn a_match_over_a_union_of_classes_is_complete_with_all_of_them() {
    holds(
        r#"
from dataclasses import dataclass
from typing import Union

@dataclass
class Ferry:
    cars: int

@dataclass
class Tug:
    pull: float

def all_of(vessel: Union[Ferry, Tug]) -> float:
    match vessel:
        case Ferry(cars):
            return cars
        case Tug(pull=pull):
            return pull

def some_of(vessel: Union[Ferry, Tug, None]) -> None:
    match vessel:  #! flow.incomplete-match "`Tug | None`"
        case Ferry():
            pass

def one_of(vessel: Union[Ferry, Tug]) -> None:
    match vessel:  #! flow.incomplete-match "`Ferry`"
        case Ferry(cars=3):
            pass
        case Tug():
            pass

def unsaid(flag):
    vessel = Ferry(3) if flag else Tug(2.5)
    match vessel:
        case Ferry():
            pass
"#,
    );
}

#[test]
fn a_lambda_sees_what_is_there_when_it_runs() {
    holds(
        r#"
from typing import Optional

class Clock:
    started: Optional[float] = None

    def __init__(self):
        self.offset = None
        self.since = lambda: self.offset + 1

    def start(self):
        self.offset = 3

def find() -> Optional[str]:
    return "Tern"

def late(port: Optional[str]):
    if port is None:
        return
    kept = lambda: port.upper()
    port  #= str

def changed(port: Optional[str]):
    if port is None:
        return
    sail = lambda: port.upper()  #! none.member "`upper`"
    sail()
    port = find()

def tested(port: Optional[str]):
    if port is None:
        return
    sail = lambda: port.upper() if port else ""
    sail()
    port = find()

def filled():
    vessel = None
    sail = lambda: vessel.offset
    vessel = Clock()
    return sail

def looped(names: list[Optional[str]]):
    for name in names:
        if name is not None:
            names.sort(key=lambda other: name.upper() + str(other))
"#,
    );
}

#[test]
fn assert_never_tells_what_is_left() {
    holds(
        r#"
from enum import Enum
from typing import Literal, Union, assert_never

class Deck(Enum):
    UPPER = 1
    LOWER = 2

def number(deck: Deck) -> int:
    if deck is Deck.UPPER:
        return 1
    elif deck is Deck.LOWER:
        return 2
    else:
        assert_never(deck)

def forgot(deck: Deck) -> int:
    if deck is Deck.UPPER:
        return 1
    assert_never(deck)  #! assert.never "`Literal[Deck.LOWER]` is left here"

def matched(way: Union[Literal["north", "south"], int]) -> int:
    match way:
        case "north":
            return 1
        case int():
            return 2
        case _:
            assert_never(way)  #! assert.never "`Literal["south"]`"

def unsaid(way):
    assert_never(way)
"#,
    );
}

#[test]
fn what_a_comprehension_binds_with_a_walrus_stays() {
    holds(
        r#"
decks = [deck for deck in range(3) if (last := deck) > 1]
last  #= int

def find(names: list[str]):
    if any((found := name).startswith("T") for name in names):
        found  #= str
"#,
    );
}

#[test]
fn names_from_outside_have_what_they_have_there_until_they_are_bound() {
    holds(
        r#"
moored = b""

def count(flag: bool) -> bytes:
    global moored
    if flag:
        moored = b"Tern"
    return moored

def late(flag: bool):
    global anchored
    if flag:
        anchored = 3
    anchored  #= int
    return anchored

anchored = 3

def harbour():
    berths = ["north"]
    def close(flag: bool):
        nonlocal berths
        try:
            if flag:
                berths = []
        finally:
            pass
        return berths[0]
    return close

def own(flag: bool) -> int:
    if flag:
        depth = 3
    return depth  #! name.maybe-unbound
"#,
    );
}
