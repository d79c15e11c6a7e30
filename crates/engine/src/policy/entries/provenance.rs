//! Whether somebody said what a type is, or it was only concluded.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "provenance.one-of-several",
        effect: Effect::Accepts,
        claim: "Where several types were concluded elsewhere, nobody can tell which of them it is here: one that fits is enough.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
def fare(kind):
    if kind == 'child':
        return 'free'
    return 3

def pay(amount: int) -> None: ...

pay(fare('adult'))
",
        told: "
def fare(kind) -> int | str:
    if kind == 'child':
        return 'free'
    return 3

def pay(amount: int) -> None: ...

pay(fare('adult'))  #! call.argument
",
    },
    Policy {
        id: "provenance.false-start",
        effect: Effect::Silences,
        claim: "`False` beside another type stands for what is not there yet.",
        holds: Holds::Unwritten,
        code: "definitions::classes::members",
        quiet: "
class Log:
    def __init__(self):
        self.file = False

    def begin(self, path):
        self.file = open(path)

    def write(self, text):
        self.file.write(text)
",
        told: "
class Log:
    def __init__(self) -> None:
        self.file: bool = False

    def write(self, text: str) -> None:
        self.file.write(text)  #! member.absent
",
    },
    Policy {
        id: "provenance.truth-numbers",
        effect: Effect::Accepts,
        claim: "A 0 or 1 stands for a truth value where nobody wrote types.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
import json

def told(fare):
    return json.dumps(fare, sort_keys=1)
",
        told: "
import json

def told(fare: dict[str, int]) -> str:
    return json.dumps(fare, sort_keys=1)  #! call.argument
",
    },
    Policy {
        id: "provenance.typed-dict",
        effect: Effect::Accepts,
        claim: "A dictionary that was made by a display elsewhere may have been meant as a typed dictionary.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
from typing import TypedDict

class Fare(TypedDict):
    adult: int

def made():
    return {'adult': 3}

def pay(fare: Fare) -> None: ...

pay(made())
",
        told: "
from typing import TypedDict

class Fare(TypedDict):
    adult: int

def pay(fare: Fare) -> None: ...

def sell(fares: dict[str, int]) -> None:
    pay(fares)  #! call.argument
",
    },
    Policy {
        id: "provenance.keyed-dictionaries",
        effect: Effect::Accepts,
        claim: "Of several typed dictionaries that nobody declared together, one that has the key is enough.",
        holds: Holds::Unwritten,
        code: "infer::items",
        quiet: "
from typing import TypedDict

class Adult(TypedDict):
    full: int

class Child(TypedDict):
    half: int

def pay(adult: Adult, child: Child, is_half: bool) -> None:
    fare = child if is_half else adult
    fare['half']
",
        told: "
from typing import TypedDict

class Adult(TypedDict):
    full: int

class Child(TypedDict):
    half: int

def pay(fare: Adult | Child) -> None:
    fare['half']  #! index.range
",
    },
    Policy {
        id: "provenance.short-tuples",
        effect: Effect::Silences,
        claim: "Where a value that nobody declared may be something unknown, a tuple that is too short may be what it never is there.",
        holds: Holds::Unwritten,
        code: "infer::items",
        quiet: "
def legs(way, known):
    found = way.legs if known else ()
    found[0]
",
        told: "
def legs(way: tuple[()] | tuple[str]) -> None:
    way[0]  #! index.range
",
    },
    Policy {
        id: "provenance.any-declared",
        effect: Effect::Silences,
        claim: "A name that is declared as `Any` is that, whatever binds it.",
        holds: Holds::Everywhere("somebody wants nothing told of it"),
        code: "infer::values",
        quiet: "
from typing import Any

line: Any = 3
line.upper()
",
        told: "
line = 3
line.upper()  #! member.absent
",
    },
    Policy {
        id: "provenance.hidden-assignment",
        effect: Effect::Silences,
        claim: "Where a comment hides that a name gets something else than it is declared to hold, the declaration is meant.",
        holds: Holds::Everywhere("the comment says so"),
        code: "infer::values",
        quiet: "
depth: str = 3  # type: ignore
depth.upper()
",
        told: "
depth: str = 3  #! value.assign
",
    },
    Policy {
        id: "provenance.guards-by-name",
        effect: Effect::MakesUnknown,
        claim: "What a callable finds of a value whose name is a question (`is_…`, `has_…`) is lost with its type: it may be a type guard.",
        holds: Holds::Everywhere("a callable's type does not say what its truth means"),
        code: "narrow",
        quiet: "
from collections.abc import Callable

def label(port: str | None, is_known: Callable[[str | None], bool]) -> str:
    if is_known(port):
        return port.upper()
    return ''
",
        told: "
from collections.abc import Callable

def label(port: str | None, count: Callable[[str | None], int]) -> str:
    if count(port):
        return port.upper()  #! none.member
    return ''
",
    },
    Policy {
        id: "provenance.undeclared-elements",
        effect: Effect::Accepts,
        claim: "A container whose type was concluded in a function without annotations fits where its elements would, were they declared wider.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
def total(rows: list[float | str]) -> None: ...

def bill(fares):
    rows = [len(fare) for fare in fares]
    total(rows)
",
        told: "
def total(rows: list[float | str]) -> None: ...

def bill(fares: list[str]) -> None:
    rows = [len(fare) for fare in fares]
    total(rows)  #! generic.invariant
",
    },
    Policy {
        id: "provenance.parameters-that-some-call-fits",
        effect: Effect::Silences,
        claim: "What is done with a parameter that nobody annotated is told only where no call that is seen passes what it can be done with.",
        holds: Holds::Unwritten,
        code: "unfit",
        quiet: "
class Berth:
    def __init__(self):
        self.number = 3

def label(berth):
    return berth.number

label(Berth())
label('north')
",
        told: "
class Berth:
    def __init__(self):
        self.number = 3

def label(berth):
    return berth.number  #! member.absent

label('south')
label('north')
",
    },
    Policy {
        id: "provenance.parameters-on-some-ways",
        effect: Effect::Silences,
        claim: "What only some ways through a function do with a parameter that nobody annotated is not held against what calls pass: they may be \
                for others.",
        holds: Holds::Unwritten,
        code: "unfit",
        quiet: "
def label(kind, port):
    if kind == 'closed':
        return port.reason
    return str(port)

label('open', 'north')
",
        told: "
def label(kind, port):
    reason = port.reason  #! member.absent
    if kind == 'closed':
        return reason
    return str(port)

label('open', 'north')
",
    },
    Policy {
        id: "provenance.parameters-of-wider-classes",
        effect: Effect::Silences,
        claim: "What calls pass to a parameter that nobody annotated may be of a class that derives from the one that is known of it.",
        holds: Holds::Unwritten,
        code: "unfit",
        quiet: "
class Vessel:
    name = 'Tern'

class Ferry(Vessel):
    berths = 3

def board(vessel):
    return vessel.berths

def first(vessels: list[Vessel]):
    return board(vessels[0])
",
        told: "
class Vessel:
    name = 'Tern'

class Ferry(Vessel):
    length = 3

def board(vessel):
    return vessel.berths  #! member.absent

def first(vessels: list[Vessel]):
    return board(vessels[0])
",
    },
];
