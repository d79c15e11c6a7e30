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
        id: "provenance.no-way",
        effect: Effect::Accepts,
        claim: "What was concluded and fits in no way is told all the same.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
def depth(chart):
    if chart:
        return 'deep'
    return 3

def dredge(metres: int) -> None: ...

dredge(depth(True))
",
        told: "
def depth(chart):
    return 'deep'

def dredge(metres: int) -> None: ...

dredge(depth(True))  #! call.argument
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
];
