//! Classes and their members.

use super::holds;

#[test]
fn false_stands_for_what_is_not_there_yet() {
    holds(
        r#"
class Log:
    content = False

    def __init__(self):
        self.file = False

    def open(self, path):
        self.file = open(path)
        self.content = b"empty"

    def write(self, line):
        self.file.write(line)
        self.content.decode()
        self.fil  #! member.absent "file"
"#,
    );
}

#[test]
fn a_flag_stays_a_flag() {
    holds(
        r#"
class Berth:
    def __init__(self):
        self.taken = False

    def moor(self):
        self.taken = True

Berth().taken  #= bool
"#,
    );
}

#[test]
fn a_declared_literal_type_is_kept_by_an_attribute() {
    holds(
        r#"
from typing import Literal

class Gate:
    def __init__(self, check: str | Literal[False] | None = None) -> None:
        self.check = check

Gate().check  #= str | Literal[False] | None
"#,
    );
}

#[test]
fn attributes_of_some_class_or_other_are_unknown() {
    holds(
        r#"
def registered(kind: type) -> None:
    kind.registry.append(kind)
#- quiet
"#,
    );
}

#[test]
fn what_makes_its_attributes_stands_in_for_others() {
    holds(
        r#"
class Proxy:
    def __init__(self, target):
        self._target = target

    def __getattr__(self, name):
        return getattr(self._target, name)

def sail(vessel: str) -> None: ...

sail(Proxy("Tern"))
#- quiet
"#,
    );
}

#[test]
fn virtual_subclasses_are_registered_with_abstract_containers() {
    holds(
        r#"
from collections.abc import Mapping, MutableMapping

@Mapping.register
class Fares: ...

MutableMapping.register(Fares)
#- quiet
"#,
    );
}

#[test]
fn whatever_enters_and_exits_is_a_context_manager() {
    holds(
        r#"
from contextlib import AbstractContextManager
from typing import Any

class Gangway:
    def __enter__(self) -> "Gangway":
        return self

    def __exit__(self, kind: Any, value: Any, trace: Any) -> None: ...

def use(manager: AbstractContextManager[Any]) -> None: ...

use(Gangway())
use(3)  #! call.argument
"#,
    );
}
