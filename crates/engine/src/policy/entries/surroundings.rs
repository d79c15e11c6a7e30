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
        id: "surroundings.not-iterable",
        effect: Effect::Silences,
        claim: "That a value cannot be iterated, entered or awaited is told of literals, builtins and what somebody declared: the class of another may \
                have subclasses that can.",
        holds: Holds::Unwritten,
        code: "checks::usage",
        quiet: "
class Fleet:
    pass

def fleet():
    return Fleet()

def ships():
    for ship in fleet():
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
    Policy {
        id: "surroundings.unreachable",
        effect: Effect::Silences,
        claim: "Code is noted as unreachable only where the text, or a call that does not return, says so; never where another version, platform or only a type does.",
        holds: Holds::Everywhere("a type may be wrong, and other versions are not this one's affair"),
        code: "checks::unreachable",
        quiet: "
def label(port: int) -> str:
    if isinstance(port, str):
        return port.upper()
    return ''
",
        told: "
def label(port: int) -> str:
    return ''
    return 'x'  #! flow.unreachable
",
    },
    Policy {
        id: "surroundings.formats",
        effect: Effect::Silences,
        claim: "Texts that are formatted are looked at where they are written out.",
        holds: Holds::Unwritten,
        code: "checks::formatting",
        quiet: "
FORM = '%s from %s'

def told(port: str) -> str:
    return FORM % (port,)
",
        told: "
def told(port: str) -> str:
    return '%s from %s' % (port,)  #! value.format
",
    },
    Policy {
        id: "surroundings.type-checking-import",
        effect: Effect::Softens,
        claim: "What is imported for type checking alone is not missed when the program runs: its types are.",
        holds: Holds::Everywhere("only a type checker looks for it"),
        code: "checks::imports",
        quiet: "
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import harbour.moorings
",
        told: "
import harbour.moorings  #! import.unresolved
",
    },
    Policy {
        id: "surroundings.name-under-condition",
        effect: Effect::Softens,
        claim: "A name that is bound under a condition, and read under another one, is bound as long as the two go together.",
        holds: Holds::Everywhere("the text does not say which conditions go together"),
        code: "policy::correlated",
        quiet: "
def flag(speed: int, is_night: bool) -> str:
    if speed > 20:
        colour = 'red'
    if is_night:
        return colour  #! name.correlated
    return ''
",
        told: "
def flag(speed: int, is_night: bool) -> str:
    if speed > 20:
        colour = 'red'
    return colour  #! name.maybe-unbound
",
    },
];
