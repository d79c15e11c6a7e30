//! What functions take and give where their text does not say it.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "signatures.hook",
        effect: Effect::MakesUnknown,
        claim: "A method that only says `return None`, or nothing, is there for subclasses to say more.",
        holds: Holds::Unwritten,
        code: "definitions::functions",
        quiet: "
class Route:
    def next_port(self):
        return None

    def label(self):
        return self.next_port().upper()
",
        told: "
class Route:
    def next_port(self) -> None:
        return None

    def label(self):
        return self.next_port().upper()  #! none.member
",
    },
    Policy {
        id: "signatures.not-implemented",
        effect: Effect::Silences,
        claim: "A method that does nothing but raise `NotImplementedError` says nothing of the parameters that it has in subclasses.",
        holds: Holds::Unwritten,
        code: "definitions::written",
        quiet: "
class Route:
    def plan(self):
        raise NotImplementedError

    def go(self):
        return self.plan('Skerry')
",
        told: "
class Route:
    def plan(self):
        return []

    def go(self):
        return self.plan('Skerry')  #! call.surplus
",
    },
    Policy {
        id: "signatures.decorated",
        effect: Effect::MakesUnknown,
        claim: "What a decorator without annotations makes of a function is unknown.",
        holds: Holds::Unwritten,
        code: "definitions::functions",
        quiet: "
def logged(function):
    return Logged(function)

class Logged:
    def __init__(self, function):
        self.function = function

    def __call__(self, *ports):
        return self.function(*ports)

@logged
def plan(port: str) -> str:
    return port

plan('Skerry', 'Holm')
",
        told: "
from typing import TypeVar

T = TypeVar('T')

def logged(function: T) -> T:
    return function

@logged
def plan(port: str) -> str:
    return port

plan('Skerry', 'Holm')  #! call.surplus
",
    },
    Policy {
        id: "signatures.asked-by-isinstance",
        effect: Effect::Silences,
        claim: "What a function without annotations asks of its parameter by `isinstance`, a call's argument answers.",
        holds: Holds::Unwritten,
        code: "call::result",
        quiet: "
def doubled(value):
    if isinstance(value, str):
        return value + value
    return [value, value]

doubled('north').upper()
",
        told: "
def doubled(value):
    if isinstance(value, str):
        return value + value
    return [value, value]

doubled(3).upper()  #! member.absent
",
    },
    Policy {
        id: "signatures.unpacked-arguments",
        effect: Effect::Accepts,
        claim: "How many arguments `*` brings is not known, and of several types of theirs one that fits is enough.",
        holds: Holds::Everywhere("a list does not say how many it holds, or which comes first"),
        code: "call::spread",
        quiet: "
def fare(adult: int, name: str) -> None: ...

def sell(items: list[int | str]) -> None:
    fare(*items)
",
        told: "
def fare(adult: int, name: str) -> None: ...

def sell(items: list[bytes]) -> None:
    fare(*items)  #! call.argument
",
    },
    Policy {
        id: "signatures.several-definitions",
        effect: Effect::Accepts,
        claim: "Of a name that is defined in several ways as the program starts, whichever takes a call's arguments is meant.",
        holds: Holds::Unwritten,
        code: "call",
        quiet: "
import os

if os.environ.get('QUAY'):
    def plan(port):
        return port
else:
    def plan(port, tide):
        return port

plan('Skerry')
plan('Skerry', 3)
",
        told: "
import os

if os.environ.get('QUAY'):
    def plan(port):
        return port
else:
    def plan(port, tide):
        return port

plan('Skerry', 3, 4)  #! call.surplus  #! call.surplus
",
    },
];
