//! What stands around the code: versions, platforms, tests, other tools.

use super::{Effect, Holds, Policy};

pub(super) const LIST: &[Policy] = &[
    Policy {
        id: "surroundings.other-version",
        effect: Effect::Silences,
        claim: "What the target version or platform never reaches is for another one.",
        holds: Holds::Everywhere("it does not run here"),
        code: "lower::constants",
        quiet: "
import sys

if sys.version_info < (3, 0):
    text = unicode
",
        told: "
import sys

if sys.version_info >= (3, 0):
    text = unicode  #! name.undefined
",
    },
    Policy {
        id: "surroundings.absent-import",
        effect: Effect::Silences,
        claim: "An import under a handler for its failing is optional.",
        holds: Holds::Everywhere("the handler says so"),
        code: "checks::imports",
        quiet: "
try:
    import skerry_tides
except ImportError:
    skerry_tides = None
",
        told: "
import skerry_tides  #! import.unresolved
",
    },
    Policy {
        id: "surroundings.test-that-fails",
        effect: Effect::Silences,
        claim: "What a test says is to fail is meant to be wrong.",
        holds: Holds::Everywhere("the test says so"),
        code: "lower::expectations",
        quiet: "
import unittest

class Fares(unittest.TestCase):
    def test_words(self) -> None:
        with self.assertRaises(TypeError):
            len(3)
",
        told: "
import unittest

class Fares(unittest.TestCase):
    def test_words(self) -> None:
        with self.subTest():
            len(3)  #! class.protocol
",
    },
    Policy {
        id: "surroundings.tried-arguments",
        effect: Effect::Silences,
        claim: "Under a handler for `TypeError`, calls with arguments that do not fit are tried.",
        holds: Holds::Everywhere("the handler says so"),
        code: "infer",
        quiet: "
def plan(port: str) -> str:
    return port

try:
    plan()
except TypeError:
    pass
",
        told: "
def plan(port: str) -> str:
    return port

try:
    plan()  #! call.missing
except ValueError:
    pass
",
    },
    Policy {
        id: "surroundings.broken-text",
        effect: Effect::Silences,
        claim: "A file that does not parse is read in part only: nothing is told of it but that.",
        holds: Holds::Everywhere("what is missing in the text may be what is missed"),
        code: "check",
        quiet: "
def plan(port: str) -> str:
    return port.upper()
",
        told: "
def plan(port: str -> str:  #! syntax.error
    return port.uper()
",
    },
    Policy {
        id: "surroundings.not-iterable",
        effect: Effect::Silences,
        claim: "That a value cannot be iterated, entered or awaited is told of literals, builtins and what somebody declared: the class of another may \
                have subclasses that can.",
        holds: Holds::Unwritten,
        code: "checks::usage",
        quiet: "
class Fleet:
    pass

def ships(fleet):
    fleet = fleet or Fleet()
    for ship in fleet:
        print(ship)
",
        told: "
class Fleet:
    pass

def ships(fleet: Fleet) -> None:
    for ship in fleet:  #! value.not-iterable
        print(ship)
",
    },
];
