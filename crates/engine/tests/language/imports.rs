//! Imports, and what stands in for modules that are not installed.

use super::holds;

#[test]
fn none_for_want_of_a_module_is_not_what_the_name_means() {
    holds(
        r#"
try:
    import json
except ImportError:
    json = None

def dump() -> str:
    if json is None:
        return ""
    return json.dumps(3)

def again(decoder: "json.JSONDecoder") -> str:
    return json.dump  #! value.return
"#,
    );
}

#[test]
fn a_stand_in_for_a_class_is_not_what_the_name_means() {
    holds(
        r#"
import sys

class Gangway:
    length: int = 3

class _NoGangway: ...

if len(sys.argv) > 3:
    Gangway = _NoGangway

def reach(gangway: Gangway) -> int:
    return gangway.length
#- quiet
"#,
    );
}

#[test]
fn a_class_made_for_want_of_another_is_one_of_two() {
    holds(
        r#"
import sys

try:
    import json
    Fault = json.JSONDecodeError
except (ImportError, AttributeError):
    class Fault(Exception): ...

def raised() -> None:
    try:
        pass
    except Fault as fault:
        told: Exception = fault
#- quiet
"#,
    );
}

#[test]
fn an_assignment_whose_findings_are_hidden_says_nothing_of_the_name() {
    holds(
        r#"
def lines(coded: bool, rows: list[str]) -> None:
    if coded:
        found = [row.encode() for row in rows]
    else:
        found = rows  # type: ignore
    joined = b"".join(found)
#- quiet
"#,
    );
}
