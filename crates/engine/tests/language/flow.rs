//! Control flow: what is reached, and what holds there.

use super::holds;

#[test]
fn a_handler_does_not_see_what_nothing_could_interrupt() {
    holds(
        r#"
def decoded(text: bytes | str) -> str:
    if isinstance(text, bytes):
        try:
            text = text.decode("ascii")
        except UnicodeError:
            text = text.decode("latin-1")
    text  #= str
    return text
"#,
    );
}

#[test]
fn a_handler_sees_what_was_assigned_before_something_else_failed() {
    holds(
        r#"
def read(path: str) -> None:
    count: int | None = None
    try:
        count = 3
        open(path)
    except OSError:
        count  #= Literal[3] | None
"#,
    );
}

#[test]
fn a_constant_of_the_version_decides_branches_of_its_own_module() {
    holds(
        r#"
import sys

PY3 = sys.version_info[0] >= 3
py = sys.version_info
new = py.major > 2

if PY3:
    text = str
else:
    text = unicode

def decode(value, _new=new):
    if not new:
        return unicode(value)
    if not _new:
        return unicode(value)
    return text(value)
#- quiet
"#,
    );
}

#[test]
fn a_constant_of_the_version_decides_branches_of_importers() {
    holds(
        r#"
from compat import OLD, PY3

if OLD:
    number = long
if not PY3:
    number = long
number = int  #= type[int]
#- compat.py
import sys

OLD = str is bytes
if sys.version_info < (3,):
    PY3 = False
else:
    PY3 = True
"#,
    );
}

#[test]
fn a_flag_that_is_merely_false_decides_nothing() {
    holds(
        r#"
DEBUG = False

def report() -> None:
    if DEBUG:
        fares  #! name.undefined
"#,
    );
}

#[test]
fn a_flag_that_is_assigned_again_decides_nothing() {
    holds(
        r#"
import sys

OLD = sys.version_info < (3,)
OLD = bool(sys.argv)

def report() -> None:
    if OLD:
        fares  #! name.undefined
"#,
    );
}
