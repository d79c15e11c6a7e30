//! How far things are looked into.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "limits.nested-containers",
        effect: Effect::Limits,
        claim: "Containers that are concluded are nested at most 4 deep; what is deeper has most likely grown by itself, as a list does that is put \
                into itself.",
        holds: Holds::Unwritten,
        code: "infer",
        quiet: "
tides = [[[[[[3]]]]]]
tides[0][0][0][0][0][0].upper()
",
        told: "
tides = [[[3]]]
tides[0][0][0].upper()  #! member.absent
",
    },
    Policy {
        id: "limits.names-for-a-result",
        effect: Effect::Limits,
        claim: "A call of a function without annotations is worked out for its own arguments one call deep; else its result is what it gives for any.",
        holds: Holds::Unwritten,
        code: "call::result",
        quiet: "
def same(value):
    return value

def passed(value):
    return same(value)

def again(value):
    return passed(value)

again('north').uper()
",
        told: "
def same(value):
    return value

same('north').uper()  #! member.absent
",
    },
];
