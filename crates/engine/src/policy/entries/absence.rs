//! What seems to be absent, and may be there all the same.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "absence.cleaned-up",
        effect: Effect::Silences,
        claim: "Names that are deleted together with what a loop binds are bound: who cleans up so reckons with the loop's having run.",
        holds: Holds::Everywhere("a loop over what is known to be there cannot be told from another"),
        code: "checks::unbound",
        quiet: "
for name in dir():
    value = name
del name, value
",
        told: "
import sys

if sys.argv:
    name = 'Tern'
del name  #! name.maybe-unbound
",
    },
    Policy {
        id: "absence.made-by-name",
        effect: Effect::MakesUnknown,
        claim: "What an unannotated `__getattr__` gives is another thing for each name: of a name that is not there otherwise nothing is known.",
        holds: Holds::Unwritten,
        code: "definitions::classes::members",
        quiet: "
class Features:
    def __getattr__(self, name):
        return name.startswith('has_')

    def berths(self):
        return self.harbour.berths
",
        told: "
class Features:
    def __getattr__(self, name) -> bool:
        return name.startswith('has_')

    def berths(self):
        return self.harbour.berths  #! member.absent
",
    },
    Policy {
        id: "absence.own-attribute",
        effect: Effect::Silences,
        claim: "An attribute that `self` lacks may be a subclass's. It is told where it is a slip of the pen (one letter) from one that is there.",
        holds: Holds::Unwritten,
        code: "infer::attributes",
        quiet: "
class Vessel:
    def __init__(self):
        self.berths = 3

    def label(self):
        return self.draught
",
        told: "
class Vessel:
    def __init__(self):
        self.berths = 3

    def label(self):
        return self.bertsh  #! member.absent
",
    },
    Policy {
        id: "absence.patched",
        effect: Effect::Silences,
        claim: "What some file of the project assigns from outside, on an object that may be of the class, is there.",
        holds: Holds::Unwritten,
        code: "policy::patched",
        quiet: "
class Vessel:
    pass

def board(vessel):
    vessel.captain = 'Ada'

Vessel().captain
",
        told: "
class Vessel:
    pass

def board(vessel):
    vessel.captain = 'Ada'

Vessel().purser  #! member.absent
",
    },
    Policy {
        id: "absence.asked-for",
        effect: Effect::Silences,
        claim: "Under a handler for `AttributeError` the program asks whether the attribute is there.",
        holds: Holds::Everywhere("the handler says that it may be absent"),
        code: "infer",
        quiet: "
class Vessel:
    pass

try:
    Vessel().captain
except AttributeError:
    pass
",
        told: "
class Vessel:
    pass

try:
    Vessel().captain  #! member.absent
except ValueError:
    pass
",
    },
    Policy {
        id: "absence.makes-attributes",
        effect: Effect::MakesUnknown,
        claim: "A class whose methods set attributes by names that cannot be read has attributes that nobody can see.",
        holds: Holds::Unwritten,
        code: "definitions::classes::members",
        quiet: "
class Fare:
    def __init__(self, **items):
        for name, value in items.items():
            setattr(self, name, value)

Fare(adult=3).adult
",
        told: "
class Fare:
    def __init__(self, **items):
        self.items = items

Fare(adult=3).adult  #! member.absent
",
    },
    Policy {
        id: "absence.made-names",
        effect: Effect::Silences,
        claim: "Names of the module that are made through `globals()` are there: those that can be read, or else any.",
        holds: Holds::Everywhere("the names are made as the module runs"),
        code: "lower::dynamic_attributes",
        quiet: "
for name in ['north', 'south']:
    globals()[name] = name.upper()

print(north)
",
        told: "
globals()['north'] = 'NORTH'

print(north)
print(south)  #! name.undefined
",
    },
    Policy {
        id: "absence.mixed-in",
        effect: Effect::Silences,
        claim: "What a class that is there to be mixed into others asks of `self`, these have.",
        holds: Holds::Unwritten,
        code: "policy::patched",
        quiet: "
class LabelMixin:
    def label(self):
        return self.describe()

LabelMixin()
",
        told: "
class Label:
    def label(self):
        return self.describe()  #! member.absent

Label()
",
    },
    Policy {
        id: "absence.unknown-base",
        effect: Effect::MakesUnknown,
        claim: "A class with a base that is not known may have anything from there.",
        holds: Holds::Everywhere("nobody can see the base"),
        code: "definitions::classes",
        quiet: "
def made(base):
    class Tug(base):
        pass
    return Tug().captain
",
        told: "
class Tug:
    pass

Tug().captain  #! member.absent
",
    },
    Policy {
        id: "absence.function-attributes",
        effect: Effect::MakesUnknown,
        claim: "Functions may be given attributes as the program runs.",
        holds: Holds::Unwritten,
        code: "infer::attributes",
        quiet: "
def plan(port):
    return port

plan.ports
",
        told: "
class Plan:
    pass

Plan().ports  #! member.absent
",
    },
    Policy {
        id: "absence.slots",
        effect: Effect::MakesUnknown,
        claim: "What a class lists in `__slots__` and nobody assigns is there, and unknown.",
        holds: Holds::Everywhere("the class says that it is there"),
        code: "definitions::classes::members",
        quiet: "
class Vessel:
    __slots__ = ('berths', 'draught')

Vessel().draught
",
        told: "
class Vessel:
    __slots__ = ('berths', 'draught')

Vessel().captain  #! member.absent
",
    },
    Policy {
        id: "absence.stand-in",
        effect: Effect::Accepts,
        claim: "An object of a class with a `__getattr__` that nobody annotated stands in for others.",
        holds: Holds::Unwritten,
        code: "relate",
        quiet: "
class Standin:
    def __getattr__(self, name):
        return name

class Vessel: ...

def board(vessel: Vessel) -> None: ...

board(Standin())
",
        told: "
class Other: ...

class Vessel: ...

def board(vessel: Vessel) -> None: ...

board(Other())  #! call.argument
",
    },
    Policy {
        id: "absence.getattr",
        effect: Effect::MakesUnknown,
        claim: "What `getattr` gives is not said to be anything, whatever the attribute is declared to be.",
        holds: Holds::Everywhere(
            "the name may be another one in a subclass, and who uses `getattr` asks for more than is declared",
        ),
        code: "infer::special",
        quiet: "
class Vessel:
    berths: int = 3

getattr(Vessel(), 'berths').upper()
",
        told: "
class Vessel:
    berths: int = 3

Vessel().berths.upper()  #! member.absent
",
    },
    Policy {
        id: "absence.class-of-object",
        effect: Effect::Accepts,
        claim: "The class of an object may be a subclass with another constructor.",
        holds: Holds::Everywhere("`type(x)` is whatever made `x`"),
        code: "call::construct",
        quiet: "
class Vessel:
    def __init__(self, name: str) -> None:
        self.name = name

    def copy(self):
        return type(self)()
",
        told: "
class Vessel:
    def __init__(self, name: str) -> None:
        self.name = name

    def copy(self):
        return Vessel()  #! call.missing
",
    },
];
