//! Containers: displays, what is expected of them, what is put into them.

use super::holds;

#[test]
fn a_container_for_anything_stays_one() {
    holds(
        r#"
from typing import Any, Dict, Mapping, Union

def options(extra: Dict[str, Any]) -> None:
    made = dict(deep=True)  # type: Dict[str, Any]
    made["length"] = 3
    found: Union[Mapping[str, Any], str]
    found = extra.copy()
    found["berth"] = 3
    found  #= dict[str, Any]
"#,
    );
}

#[test]
fn an_empty_display_behind_or_takes_the_declared_type() {
    holds(
        r#"
from typing import Any, Mapping, Optional

def query_of(url: str) -> Optional[str]:
    return url or None

def fares(query: "Mapping[str, Any] | str | None" = None, ports: Optional[list[str]] = None) -> None:
    query = query_of("north") or {}
    query  #= str | dict[str, Any]
    ports = ports or []
    ports  #= list[str]
    ports = ["north"] if query else []
    ports  #= list[str]
    ports = query_of("north") or [1]  #! value.assign "does not fit `ports`"
    ports = query_of("north") and []  #! value.assign "does not fit `ports`"
"#,
    );
}

#[test]
fn a_parameter_that_gets_something_else_is_told_once() {
    holds(
        r#"
import unknown_module  #! import.unresolved

def lengths(ports: str, berths: Optional[list[int]] = None) -> None:  #! name.undefined
    ports = ports.split()  #! value.assign "`list[str]` does not fit `ports`, which is declared as `str`"
    ports.append("north")
    ports.upper()  #! member.absent "`list[str]` has no attribute `upper`"

def widths(berths: "list[int] | None" = None) -> None:
    berths = list(unknown_module.berths or [])
    berths  #= list[int]

def depths(loop: "list[int] | None" = None) -> None:
    loop = loop or unknown_module.loop()
    loop.append(3)
"#,
    );
}

#[test]
fn a_display_takes_the_element_type_that_is_declared() {
    holds(
        r#"
from typing import Any, Sequence

class Log:
    def __init__(self) -> None:
        self.entries: Sequence[str] = []
        self.entries.append("departed")
        self.entries  #= list[str]

extra: dict[str, Any] = {"fare": 3}
extra.update({"name": "Tern"})
extra  #= dict[str, Any]
"#,
    );
}

#[test]
fn each_branch_of_a_conditional_display_is_looked_at_by_itself() {
    holds(
        r#"
def fares(known: bool) -> None:
    table: dict[str, float | None] | None = {"Skua": 2.5} if known else None
    wrong: dict[str, str] | None = {"Skua": 2.5} if known else None  #! value.assign
"#,
    );
}

#[test]
fn a_call_of_a_generic_class_takes_the_type_that_is_expected() {
    holds(
        r#"
from typing import Generic, Mapping, Optional, TypeVar

T = TypeVar("T")

class Outcome(Generic[T]):
    def __init__(self, value: Optional[T]) -> None: ...

def wrap(names: Mapping[str, str], many: list[object]) -> None:
    table: dict[str, str | None] = dict(names)
    outcome: Outcome[object | list[object]] = Outcome(many)
    wrong: dict[str, int] = dict(names)  #! value.assign
"#,
    );
}

#[test]
fn zip_of_any_number_of_lists_gives_tuples_of_any_length() {
    holds(
        r#"
def turned(rows: list[list[str]]) -> list[tuple[str, ...]]:
    return list(zip(*rows))
#- quiet
"#,
    );
}

#[test]
fn an_empty_container_beside_a_full_one_takes_its_elements() {
    holds(
        r#"
def stops(given: list[str] | None) -> None:
    all_stops = [] if given is None else list(given)
    all_stops  #= list[str]
"#,
    );
}

#[test]
fn what_a_list_was_seen_with_does_not_forbid_something_else() {
    holds(
        r#"
class Vessel: ...
class Barge(Vessel): ...

def fleet():
    vessels = [Barge()]
    vessels.append(Vessel())
    vessels.insert(0, "Tern")
    prices = {"Tern": 3}
    prices.update({"Skua": "free"})
    return vessels
#- quiet
"#,
    );
}

#[test]
fn what_a_list_is_declared_to_hold_forbids_something_else() {
    holds(
        r#"
def fleet(vessels: list[str]) -> None:
    vessels.append(3)  #! call.argument
    names: list[str] = ["Tern"]
    names.append(3)  #! call.argument
"#,
    );
}

#[test]
fn elements_of_several_types_are_each_of_one_of_them() {
    holds(
        r#"
def manifest():
    line = {"name": "Tern", "count": 3, "captain": None}
    line["name"].upper()
    line["count"] + 1
    names = ["Tern", None]
    ", ".join(names)
    rows = [1, "Tern"]
    for row in rows:
        row.upper()
#- quiet
"#,
    );
}

#[test]
fn elements_of_declared_containers_are_any_of_their_types() {
    holds(
        r#"
def manifest(line: dict[str, str | None]) -> None:
    line["name"].upper()  #! none.member
    for value in line.values():
        value.upper()  #! none.member
"#,
    );
}

#[test]
fn a_typed_dictionary_is_copied_as_itself() {
    holds(
        r#"
from typing import TypedDict

class Fare(TypedDict):
    price: int

def again(fare: Fare) -> Fare:
    return fare.copy()
#- quiet
"#,
    );
}

#[test]
fn what_has_no_items() {
    holds(
        r#"
class Vessel: ...

Vessel()[0]  #! index.unsupported "`Vessel` has no items"
3[0]  #! index.unsupported
"Tern"[0]  #= str

class Mixin:
    def first(self) -> object:
        return self[0]

def either(vessel: Vessel | list[int]) -> None:
    vessel[0]  #! index.unsupported
"#,
    );
}

#[test]
fn items_that_a_tuple_does_not_have() {
    holds(
        r#"
leg = ("Skua", "Tern")
leg[2]  #! index.range "there is no item 2"
leg[-3]  #! index.range
leg[-2]  #= Literal["Skua"]

def first(stops: tuple[str, ...]) -> str:
    return stops[7]
"#,
    );
}

#[test]
fn typed_dictionaries_have_the_keys_that_they_declare() {
    holds(
        r#"
from typing import NotRequired, Required, TypedDict, Union

class Fare(TypedDict):
    adult: float
    child: NotRequired[float]

class Loose(TypedDict, total=False):
    adult: Required[float]
    note: str

Made = TypedDict("Made", {"adult": float, "note": str}, total=False)

fare: Fare = {"adult": 3.5}
fare = {"adult": 3.5, "child": 2}
fare = {"child": 2.0}  #! value.assign
fare = {"adult": "much"}  #! value.assign
fare = {"adult": 3.5, "chidl": 2.0}  #! value.assign
loose: Loose = {"adult": 3.5}
loose = {"note": "x"}  #! value.assign
made: Made = {}
made["note"]  #= str

fare["adult"]  #= float
fare["chidl"]  #! index.range "is `child` meant?"
fare["adult"] = "much"  #! value.item
fare["x"] = 3  #! index.range
fare.get("adult")  #= float
fare.get("child")  #= float | None
fare.get("child", 0.0)  #= float
fare.get("child", "none")  #= float | str
Fare(adult=3.5)
Fare(child=2.0)  #! call.missing
Fare(adult=3.5, note="x")  #! call.keyword
Fare(fare, child=2.0)

def take(fare: Fare) -> None: ...
take({"adult": 1})
take({"adult": "x"})  #! call.argument
take(loose)  #! call.argument
take(made)  #! call.argument
"#,
    );
}

#[test]
fn a_key_tells_typed_dictionaries_apart() {
    holds(
        r#"
from typing import Literal, TypedDict, Union

class Ferry(TypedDict):
    kind: Literal["ferry"]
    cars: int

class Tug(TypedDict):
    kind: Literal["tug"]
    pull: float

def power(vessel: Union[Ferry, Tug]) -> float:
    if "pull" in vessel:
        vessel  #= Tug
        return vessel["pull"]
    vessel  #= Ferry
    return vessel["cars"]

def by_tag(vessel: Union[Ferry, Tug]) -> float:
    if vessel["kind"] == "tug":
        return vessel["pull"]
    match vessel:
        case {"kind": "ferry", "cars": cars}:
            cars  #= int
            return cars
    return 0.0
"#,
    );
}

#[test]
fn items_that_are_only_read_or_must_be_there_stay() {
    holds(
        r#"
from typing import TypedDict
from typing_extensions import NotRequired, ReadOnly

class Fare(TypedDict):
    port: str
    price: ReadOnly[int]
    note: NotRequired[str]

class Seen(TypedDict):
    port: ReadOnly[object]
    price: ReadOnly[float]
    note: ReadOnly[NotRequired[str]]

class Open(TypedDict):
    port: str
    price: int
    note: NotRequired[str]

def change(fare: Fare) -> None:
    fare["price"]  #= int
    fare["price"] = 3  #! member.readonly "cannot be assigned: it is declared to be only read"
    fare["port"] = "Skerry"
    del fare["port"]  #! member.readonly "cannot be deleted: it is an item that must be there"
    del fare["note"]
    del fare["prot"]  #! index.range "has no key `prot`"
    fare.pop("port")  #! member.readonly "cannot be deleted"
    fare.pop("note", "")
    fare.update({"price": 3})  #! member.readonly "`price` of `Fare`"
    fare.update({"port": 3})  #! value.item "holds `str`"
    fare.update({"port": "Skerry", "note": ""})

def look(seen: Seen) -> None: ...

def fill(fare: Open) -> None: ...

def pass_on(fare: Fare, full: Open) -> None:
    look(fare)
    look(full)
    fill(full)
    fill(fare)  #! call.argument "`Fare` does not fit `fare`"
"#,
    );
}

#[test]
fn keys_that_are_read_must_be_of_the_right_type() {
    holds(
        r#"
fares: dict[str, int] = {"child": 3}
fares["child"]
fares[3]  #! index.unsupported "`dict[str, int]` takes `str` in brackets, not `Literal[3]`"

decks = ["upper", "lower"]
decks[0]
decks[-1:]
decks["upper"]  #! index.unsupported "not `Literal["upper"]`"
"Tern"["a"]  #! index.unsupported

# Concluded from the first keys alone.
seen = {"a": 1}
seen[3]

class Timetable:
    def __getitem__(self, hour: int) -> str:
        return ""

Timetable()[7]  #= str
Timetable()["seven"]  #! index.unsupported "takes `int` in brackets"

def find(names: list[str], key: object, place):
    names[place]
    names[key]  #! index.unsupported
"#,
    );
}

#[test]
fn what_keeps_a_display_from_being_a_typed_dictionary_is_named() {
    holds(
        r#"
from typing import TypedDict

class Fare(TypedDict):
    port: str
    price: int

first: Fare = {"port": "Skerry"}  #! value.assign "it lacks the key `price`"
second: Fare = {"port": "Skerry", "price": "3"}  #! value.assign "`price` holds `int`, not `Literal["3"]`"
third: Fare = {"port": "Skerry", "price": 3, "deck": 1}  #! value.assign "that has no key `deck`"

def sell(fare: Fare) -> Fare:
    return {3: 4}  #! value.return "a key is no text"

sell({"price": 3})  #! call.argument "it lacks the key `port`"
"#,
    );
}

#[test]
fn constants_index_tuples_as_numbers_do() {
    holds(
        r#"
from typing import Final, Literal, Optional, Tuple

NAME: Final = 0
CARS: Final[Literal[1]] = 1
BERTH = -1


def read(entry: Tuple[str, Optional[int], bytes], place: int) -> None:
    entry[NAME]  #= str
    entry[CARS]  #= int | None
    entry[place]  #= str | int | bytes | None
    if entry[CARS] is not None:
        entry[CARS] + 1  #= int
"#,
    );
}

#[test]
fn what_a_container_makes_of_its_items_is_read_back() {
    holds(
        r#"
from http.cookies import SimpleCookie, _unquote

cookies = SimpleCookie()
cookies["berth"] = "north"
cookies["berth"]  #= Morsel[str]
cookies["berth"]["max-age"] = 3
vessels = {}
vessels["Gannet"] = "north"
vessels["Gannet"]  #= Literal["north"]
"#,
    );
}

#[test]
fn an_item_that_may_be_anything_is_not_what_was_written() {
    holds(
        r#"
from email.message import EmailMessage

notice = EmailMessage()
notice["content-type"] = "text/plain; charset=utf-8"
notice["content-type"]  #= Any
fares: dict[str, object] = {}
fares["adult"] = 3
fares["adult"]  #= Literal[3]
"#,
    );
}

#[test]
fn declared_literals_stay_what_they_are_in_containers() {
    holds(
        r#"
from typing import Literal

Tide = Literal["high", "low"]

def tables(rows: list[tuple[str, Tide]], tide: Tide) -> list[tuple[str, Tide]]:
    found = []
    for name, height in rows:
        found.append((name, height))
    names = []
    names.append("north")
    names  #= list[str]
    by_tide = {}
    by_tide[tide] = 3
    by_tide  #= dict[Literal["high", "low"], int]
    return found
"#,
    );
}

/// Nobody else holds a list that is just put together, so that its elements may be of the declared type.
#[test]
fn lists_put_together() {
    holds(
        r#"
def tides(count: int, known: list[int]) -> list[float | None]:
    depths: list[float] = [0] * count
    turned: list[float] = count * [0]
    longer: list[float] = [0] + [1, 2] * count
    joined: list[float] = known + [2.5]
    both: list[float | None] = known + [None]
    print(depths, turned, longer, joined, both)
    return [None] * count


def wrong(count: int, known: list[str]) -> list[float]:
    names: list[float] = [None] * count  #! value.assign
    held: list[float | str] = known  #! generic.invariant
    print(names, held)
    return ["a"] * count  #! value.return
"#,
    );
}

/// The elements of a display stand there to be seen one by one: one that does not fit is told, whatever the others are.
#[test]
fn one_element_does_not_fit() {
    holds(
        r#"
from typing import Literal, Mapping, Optional, Sequence

depths: list[float] = ["deep", 2.5]  #! value.assign
berths: set[int] = {1, "Skerry"}  #! value.assign
fares: dict[str, int] = {"adult": 1, "child": "half"}  #! value.assign
routes: Optional[list[list[int]]] = [[1, 2], [3, "four"]]  #! value.assign
tides: Sequence[float] = [1, 2.5, 3]
both: Mapping[str, float | None] = {"high": 2, "low": 0.5, "now": None}


def measured(tide):
    return 2 if tide else "low"


def counted(tide):
    return 2


def side(berth: Literal["port", "starboard"] | None) -> None: ...


def board(crew: list[int]) -> list[int]:
    # So is it where only literals are taken.
    chosen = counted(crew) if crew else "port"
    side(chosen)
    # What an unannotated function gives is left open as elsewhere.
    open_end: list[int] = [measured(crew), 1]
    print(open_end)
    return [1, "two"]  #! value.return


board([1, "two"])  #! call.argument
", ".join(["Tern", None])  #! call.argument
"#,
    );
}

#[test]
fn what_holds_itself_is_known_down_to_where_it_begins_again() {
    holds(
        r#"
def parse(text):
    if text == "pier":
        return Pier()
    return [parse(part) for part in text]

class Pier: ...

class Chart:
    def __init__(self):
        self.places = []

    def take(self, place):
        self.places.append(Pier() if place else drawn(place))

    def all(self):
        return self.places

def drawn(place):
    chart = Chart()
    chart.take(place)
    return chart.all()

def table(depth):
    if depth:
        return {"name": "Hollin", "below": table(depth - 1)}
    return {"name": "Marrow"}

def legs(n):
    return [Pier()] if n else {1: back(n)}

def back(n):
    return (legs(n), 3)

def nested(items):
    out = []
    for item in items:
        out.append(nested(item))
    return out

parse("x")  #= Pier | list[Pier | unknown]
drawn(1)  #= list[Pier | unknown]
Chart().all()  #= list[Pier | unknown]
table(3)  #= dict[str, str | unknown]
legs(1)  #= dict[int, tuple[list[Pier] | unknown, int]] | list[Pier]
back(1)  #= tuple[dict[int, unknown] | list[Pier], int]
nested([])  #= list[unknown]
parse("x").depth  #! member.absent
"#,
    );
}
