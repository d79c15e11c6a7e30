//! What may be None.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "none.only-ever",
        effect: Effect::MakesUnknown,
        claim: "What is only ever None in its own class, or in its own module, is there to be set from elsewhere.",
        holds: Holds::Unwritten,
        code: "definitions::classes::members",
        quiet: "
class Vessel:
    captain = None

    def label(self):
        return self.captain.upper()
",
        told: "
class Vessel:
    captain: str | None = None

    def label(self):
        return self.captain.upper()  #! none.member
",
    },
    Policy {
        id: "none.set-by-init",
        effect: Effect::Silences,
        claim: "What `__init__` gives a value on every way is not None elsewhere, though the class's body says None.",
        holds: Holds::Unwritten,
        code: "definitions::classes::members",
        quiet: "
class Vessel:
    captain = None

    def __init__(self, name):
        self.captain = str(name)

    def label(self):
        return self.captain.upper()
",
        told: "
class Vessel:
    captain = None

    def hire(self, name):
        self.captain = str(name)

    def dismiss(self):
        if self.captain is not None:
            self.captain = None

    def label(self):
        return self.captain.upper()  #! none.member
",
    },
    Policy {
        id: "none.after-own-call",
        effect: Effect::Silences,
        claim: "After a call of the object's own method that gives an attribute a value, the attribute is not None.",
        holds: Holds::Unwritten,
        code: "lower::own_calls",
        quiet: "
class Quay:
    def __init__(self):
        self.line = None

    def connect(self):
        self.line = open('line')

    def read(self):
        self.connect()
        return self.line.read()
",
        told: "
class Quay:
    def __init__(self):
        self.line: str | None = None

    def connect(self) -> None:
        pass

    def read(self) -> str:
        self.connect()
        return self.line.upper()  #! none.member
",
    },
    Policy {
        id: "none.same-condition",
        effect: Effect::Silences,
        claim: "A name that is given something else than None under a condition is not None where the same condition is asked again.",
        holds: Holds::Everywhere("nothing that the condition is about has changed in between"),
        code: "policy::correlated",
        quiet: "
def announce(is_late: bool) -> str:
    reason = None
    if is_late:
        reason = 'fog'
    print(is_late)
    if is_late:
        return reason.upper()
    return ''
",
        told: "
def announce(is_late: bool) -> str:
    reason = None
    if is_late:
        reason = 'fog'
    print(is_late)
    return reason.upper()  #! none.member
",
    },
    Policy {
        id: "none.other-condition",
        effect: Effect::Softens,
        claim: "Under another condition than that which gave it a value, whether it is None depends on what goes together.",
        holds: Holds::Everywhere("the text does not say which conditions go together"),
        code: "policy::correlated",
        quiet: "
def announce(is_late: bool, has_speaker: bool) -> str:
    reason = None
    if is_late:
        reason = 'fog'
    if has_speaker:
        return reason.upper()  #! none.correlated
    return ''
",
        told: "
def announce(is_late: bool, has_speaker: bool) -> str:
    reason = None
    if is_late:
        reason = 'fog'
    return reason.upper()  #! none.member
",
    },
    Policy {
        id: "none.given-for-none",
        effect: Effect::Silences,
        claim: "None that a function gives back only for None does not come back to who passes something else.",
        holds: Holds::Unwritten,
        code: "call::given_none",
        quiet: "
def label(port):
    if port is None:
        return None
    return port.upper()

label('Skerry').lower()
",
        told: "
def label(port):
    if not port.strip():
        return None
    return port.upper()

label('Skerry').lower()  #! none.member
",
    },
    Policy {
        id: "none.elements",
        effect: Effect::Silences,
        claim: "Whether an element of a container that nobody declared is one of those that are None, nobody can tell.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
def ports(names):
    found = [None, 'Skerry']
    for name in names:
        found.append(str(name))
    return found[1].upper()
",
        told: "
def ports(found: list[str | None]) -> str:
    return found[1].upper()  #! none.member
",
    },
    Policy {
        id: "none.handler-for-all",
        effect: Effect::Silences,
        claim: "What comes of None under a handler for every exception is caught there.",
        holds: Holds::Everywhere("the handler catches it"),
        code: "infer",
        quiet: "
def label(port: str | None) -> str:
    try:
        return port.upper()
    except Exception:
        return ''
",
        told: "
def label(port: str | None) -> str:
    try:
        return port.upper()  #! none.member
    except KeyError:
        return ''
",
    },
    Policy {
        id: "none.told-once",
        effect: Effect::Silences,
        claim: "What is told once of a value that may be None is not told again in the same body.",
        holds: Holds::Everywhere("one way out settles all of them"),
        code: "infer::attributes",
        quiet: "
def label(port: str | None) -> str:
    assert port
    return port.upper() + port.lower()
",
        told: "
def label(port: str | None) -> str:
    first = port.upper()  #! none.member
    return first + port.lower()
",
    },
    Policy {
        id: "none.given-later",
        effect: Effect::Softens,
        claim: "Whether an attribute is there that starts as None and that another method gives a value depends on the order of calls, where fewer than half of its readers ask.",
        holds: Holds::Unwritten,
        code: "policy::given_later",
        quiet: "
class Quay:
    def __init__(self):
        self.line = None

    def connect(self):
        self.line = open('line')

    def is_open(self):
        return self.line is not None

    def read(self):
        return self.line.read()  #! none.correlated

    def close(self):
        self.line.close()  #! none.correlated
",
        told: "
class Quay:
    def __init__(self):
        self.line = None

    def connect(self):
        self.line = open('line')

    def is_open(self):
        return self.line is not None

    def read(self):
        return self.line.read() if self.line is not None else ''

    def close(self):
        self.line.close()  #! none.member
",
    },
    Policy {
        id: "none.asked-somewhere",
        effect: Effect::Silences,
        claim: "An attribute that nobody declared and that no condition asks about is not reckoned to be None.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
class Quay:
    def __init__(self):
        self.line = None

    def connect(self, line):
        self.line = line

    def read(self):
        return self.line.read()
",
        told: "
class Quay:
    line: str | None = None

    def read(self):
        return self.line.upper()  #! none.member
",
    },
    Policy {
        id: "none.kept-condition",
        effect: Effect::Silences,
        claim: "A condition that a name was given narrows where the name is asked, as long as it is about the same value.",
        holds: Holds::Everywhere("the name is the condition"),
        code: "lower::conditions",
        quiet: "
def label(port: str | None) -> str:
    is_named = port is not None
    if is_named:
        return port.upper()
    return ''
",
        told: "
def label(port: str | None, other: str | None) -> str:
    is_named = port is not None
    port = other
    if is_named:
        return port.upper()  #! none.member
    return ''
",
    },
    Policy {
        id: "none.optional-module",
        effect: Effect::Silences,
        claim: "What is a module, or None where that is not installed, is used where it is; so is a class, a function or an import that the module sets to None elsewhere, and an import of what its module sets to None and to something else.",
        holds: Holds::Unwritten,
        code: "policy::provenance",
        quiet: "
import importlib

def find(name):
    try:
        return importlib.import_module(name)
    except ImportError:
        return None

tides = find('tides')

def high():
    return tides.high()

try:
    class Gauge(tides.Gauge):
        def read(self): ...
except AttributeError:
    Gauge = None

def read():
    return Gauge.read

#- harbour.py
open_gate = None

def _open(port):
    return port

def begin():
    global open_gate
    open_gate = _open

#- office.py
from harbour import open_gate

def label(port):
    return open_gate(port)
",
        told: "
import importlib
from types import ModuleType

def find(name: str) -> ModuleType | None:
    try:
        return importlib.import_module(name)
    except ImportError:
        return None

tides: ModuleType | None = find('tides')

def high():
    return tides.high()  #! none.member

#- harbour.py
port: str | None = None

#- office.py
from harbour import port

def label():
    return port.upper()  #! none.member
",
    },
];
