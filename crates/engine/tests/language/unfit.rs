//! What functions do with parameters that nobody annotated, held against what calls pass.

use leitmotiv_engine::check::check;

use super::holds;
use crate::fixture::{Source, database};

#[test]
fn each_call_is_counted_also_where_several_pass_the_same() {
    let told = |calls: &str| {
        let text = format!("def label(berth, size=0):\n    return berth.number\n\n{calls}");
        let (folder, db) = database(&[Source { path: "desk.py".into(), text }], None);
        let file = db.source(&folder.path().canonicalize().unwrap().join("desk.py"));
        let checked = check(&db, &[file]);
        let mut steps = checked[0].findings.iter().flat_map(|finding| &finding.evidence);
        steps.find(|step| step.kind == "passed").unwrap().text.clone()
    };
    assert_eq!(told("label(3)\n"), "the one call of `label` that is seen passes `int` to `berth`");
    assert_eq!(
        told("label(3)\nlabel(4)\nlabel('north')\n"),
        "no call of `label` fits (3 are seen); the first passes `int` to `berth`"
    );
}

#[test]
fn what_no_call_can_be_used_for_is_told_where_it_is_done() {
    holds(
        r#"
class Berth:
    def __init__(self, number):
        self.number = number

def label(berth):
    return berth.naem  #! member.absent

def hour(time):
    return time.strftime("%H")  #! none.member

def first(rows):
    return rows[0]  #! index.unsupported

label(Berth(3))
hour(None)
first(Berth(4))
"#,
    );
}

#[test]
fn calls_of_other_files_count_and_one_that_fits_is_enough() {
    holds(
        r#"
#- desk.py
def label(berth):
    return berth.number

def open_at(hour):
    return hour.minute  #! member.absent

class Desk:
    def __init__(self, port):
        self.name = port.name  #! member.absent
#- north.py
from desk import Desk, label, open_at

class Berth:
    number = 3

label(Berth())
open_at("ten")
Desk("north")
#- south.py
from desk import Desk, label, open_at

label("south")
open_at(10)
Desk("south")
"#,
    );
}

#[test]
fn methods_count_their_receivers_and_their_overrides() {
    holds(
        r#"
class Desk:
    def sell(self, fare):
        return fare.price  #! member.absent

    @classmethod
    def make(cls, name):
        return name.port  #! member.absent

    @staticmethod
    def round(fare):
        return fare.price  #! member.absent

    def close(self, hour):
        return hour.minute

class NightDesk(Desk):
    def close(self, hour):
        return hour

Desk().sell(3)
Desk.make("north")
Desk.round(4)
Desk().close(5)
"#,
    );
}

#[test]
fn what_is_not_known_of_a_call_may_fit() {
    holds(
        r#"
def label(berth):
    return berth.number

def from_outside(berth):
    return label(berth)

label(3)
#- quiet
"#,
    );
}

#[test]
fn defaults_decorators_and_guards_are_left_alone() {
    holds(
        r#"
import functools
import unittest

def label(berth=None):
    return berth.number

@functools.cache
def length(berth):
    return berth.length

def number(berth):
    try:
        return berth.number
    except AttributeError:
        return 0

def name(berth):
    return berth.name if hasattr(berth, "name") else str(berth)

def port(berth):
    return [stop.port for stop in berth]

class Labels(unittest.TestCase):
    def test_port(self):
        with self.assertRaises(AttributeError):
            depth(3)

def depth(berth):
    return berth.depth

label()
length(3)
number(3)
name(3)
port([3])
#- quiet
"#,
    );
}
