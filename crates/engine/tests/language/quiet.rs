//! Being quiet where nothing is sure.

use super::holds;

#[test]
fn whatever_may_be_none_under_a_handler_for_everything_is_caught() {
    holds(
        r#"
import re

def number(text: str) -> int:
    try:
        return int(re.match("[0-9]+", text).group())
    except Exception:
        return 0

def other(text: str) -> int:
    try:
        return int(re.match("[0-9]+", text).group())  #! none.member
    except ValueError:
        return 0
"#,
    );
}

#[test]
fn escapes_in_a_quoted_annotation_are_read_as_the_string_says() {
    holds(
        r#"
from typing import Literal

ENDING: "Literal['\\n', '\\r\\n']" = "\n"
WRONG: "Literal['\\n', '\\r\\n']" = "\r"  #! value.assign
"#,
    );
}

#[test]
fn the_package_of_a_module_in_a_package_is_a_text() {
    holds(
        r#"
__package__  #= str | None
#- ferry/__init__.py
__package__  #= str
#- ferry/fares.py
__package__  #= str
"#,
    );
}
