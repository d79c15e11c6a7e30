//! What seems to be absent, and may be there all the same.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
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
        code: "lower::made",
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
];
