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
        code: "outline::functions",
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
    Policy {
        id: "signatures.annotation-and-method",
        effect: Effect::Silences,
        claim: "An annotation in a class before a method of the same name does not mean the method.",
        holds: Holds::Everywhere("names in annotations mean what is bound around the class"),
        code: "infer::type_expressions",
        quiet: "
class Vessel:
    def list(self) -> list[int]:
        return [3]

    def int(self) -> int:
        return 3
",
        told: "
class Vessel:
    def list(self) -> lisst[int]:  #! name.undefined
        return [3]
",
    },
    Policy {
        id: "signatures.any-arguments",
        effect: Effect::Accepts,
        claim: "A callable that takes `*args` and `**kwargs` of anything takes what is asked of it.",
        holds: Holds::Unwritten,
        code: "relate::callables",
        quiet: "
from collections.abc import Callable

def run(plan: Callable[[str], int]) -> None: ...

def wrapped(*args, **kwargs):
    return 3

run(wrapped)
",
        told: "
from collections.abc import Callable

def run(plan: Callable[[str], int]) -> None: ...

def plain():
    return 3

run(plain)  #! call.argument
",
    },
    Policy {
        id: "signatures.constructors",
        effect: Effect::Silences,
        claim: "A subclass may be made with other arguments than its base.",
        holds: Holds::Everywhere("nobody calls an `__init__` through a base but who knows the class"),
        code: "checks::overrides",
        quiet: "
class Vessel:
    def __init__(self, name: str) -> None: ...

class Barge(Vessel):
    def __init__(self) -> None: ...
",
        told: "
class Vessel:
    def moor(self, name: str) -> None: ...

class Barge(Vessel):
    def moor(self) -> None: ...  #! class.override
",
    },
    Policy {
        id: "signatures.buffers",
        effect: Effect::Accepts,
        claim: "`bytearray` and `memoryview` are taken where `bytes` is asked for.",
        holds: Holds::Everywhere("they were for long, and much code says `bytes` and means any of them"),
        code: "relate",
        quiet: "
def send(data: bytes) -> None: ...

send(bytearray(3))
",
        told: "
def send(data: bytes) -> None: ...

send('text')  #! call.argument
",
    },
];
