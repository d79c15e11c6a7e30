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

#[test]
fn machine_code_is_there_but_unknown() {
    holds(
        r#"
import _statistics
from symtable import symtable
from _queue import SimpleQueue

_statistics.pulled  #= unknown
SimpleQueue()
"#,
    );
}

#[test]
fn what_only_type_checking_imports_is_not_missed_at_run_time() {
    holds(
        r#"
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from far_away.types import Thing
    from ferry.vesels import Vessel  #! import.unresolved

import far_away  #! import.unresolved
#- ferry/__init__.py
name = ""
#- ferry/vessels.py
class Vessel: ...
"#,
    );
}

#[test]
fn a_package_has_the_submodules_it_takes_everything_from() {
    holds(
        r#"
import graphs

graphs.makers.ring(3)
#- graphs/__init__.py
from graphs.makers import *
#- graphs/makers.py
def ring(size):
    return [size]
#- quiet
"#,
    );
}

#[test]
fn a_folder_below_a_package_belongs_to_it() {
    holds(
        r#"
from ferry.plain.tides import high

high()  #= int
#- ferry/__init__.py
base = 3
#- ferry/plain/tides.py
from .. import base

def high():
    return base
"#,
    );
}

#[test]
fn what_is_imported_keeps_its_literal_type() {
    holds(
        r#"
#- marks.py
import enum
from typing import Final, Literal

class Mark(enum.Enum):
    UNSET = object()
    OTHER = object()

UNSET: Literal[Mark.UNSET] = Mark.UNSET
OTHER = Mark.OTHER
COLUMN: Final = "column"
PLAIN = "plain"
#- main.py
from marks import COLUMN, OTHER, PLAIN, UNSET

UNSET  #= Literal[Mark.UNSET]

def inside():
    UNSET  #= Literal[Mark.UNSET]
    OTHER  #= Literal[Mark.OTHER]
    COLUMN  #= Literal["column"]
    PLAIN  #= str
"#,
    );
}

#[test]
fn stand_ins_for_what_cannot_be_imported_mean_the_same() {
    holds(
        r#"
#- tides.py
class TideError(Exception):
    height: float


#- main.py
from contextlib import suppress

try:
    import tides

    BaseError = tides.TideError
except ImportError:

    class BaseError(BaseException): ...


with suppress(ImportError):
    from tides import missing

from nowhere import one, two, three  #! import.unresolved "no module `nowhere`"

from tides import (  # type: ignore
    other,
    another,
)


def read() -> float:
    try:
        return 1.5
    except BaseError as error:
        kept: Exception = error
        return error.height
"#,
    );
}

#[test]
fn annotations_mean_the_module_where_a_local_name_comes_later() {
    holds(
        r#"
#- berths.py
class Berth: ...


#- main.py
import berths


def moor() -> None:
    free = []  # type: list[berths.Berth]
    free  #= list[Berth]
    berths, count = 3, 4
"#,
    );
}

#[test]
fn star_imports_that_are_found_come_first() {
    holds(
        r#"
#- fleet/__init__.py
from fleet.ports import *
from fleet.routes import *
from fleet.nowhere import *  #! import.unresolved "no module `fleet.nowhere`"
#- fleet/ports.py
def berth() -> int:
    return 3


def chart() -> int:
    return 4
#- fleet/routes.py
from fleet.nowhere import wrapped  #! import.unresolved "no module `fleet.nowhere`"


@wrapped
def chart() -> str:
    return "north"
#- main.py
import fleet

fleet.berth()  #= int
fleet.chart()  #= unknown
"#,
    );
}

#[test]
fn modules_of_the_project_may_hide_those_of_the_standard_library() {
    holds(
        r#"
#- select.py
def berth() -> int:
    return 3
#- random.py
import random  #! import.shadowed "`random` is `random.py` here, which hides the standard library's `random`"
#- fleet/__init__.py
#- fleet/types.py
TIDE = 1
#- fleet/main.py
import types
from . import types as tides
tides.TIDE  #= int
types.ModuleType  #= type[ModuleType]
#- test/__init__.py
#- main.py
import select  #! import.shadowed "`select` is `select.py` here"
from random import choice  #! import.shadowed "hides the standard library's `random`" #! import.unresolved "has no `choice`"
import test
import json

select.berth()  #= int
"#,
    );
}

#[test]
fn what_is_missing_is_told_once_in_a_file() {
    holds(
        r#"
import skery_tides  #! import.unresolved "there is no module `skery_tides`; 2 more imports below need `skery_tides` as well"
from skery_tides.tables import spring
from skery_tides import neap
import skery_fares.adult  #! import.unresolved "there is no module `skery_fares.adult`"

def late() -> None:
    import skery_fares.child
"#,
    );
}

#[test]
fn stubs_give_on_what_they_import_only_where_they_say_so() {
    holds(
        r#"
#- stubs/tidelib.pyi
import json
from typing import Any as Any, Sequence
from decimal import *
from fractions import Fraction
__all__ = ["Fraction", "depth"]
depth: Sequence[float]
#- main.py
from tidelib import Any, Fraction, depth
from tidelib import Sequence  #! import.unresolved "`stubs/tidelib.pyi`, the stub of module `tidelib`, has no `Sequence`"
import tidelib
tidelib.json  #! member.absent
tidelib.Decimal(3)
"#,
    );
}

#[test]
fn modules_are_there_in_the_versions_that_have_them() {
    holds(
        r#"
#- python 3.10
import tomllib  #! import.unresolved
from asyncio import taskgroups  #! import.unresolved

try:
    import zoneinfo
except ImportError:
    zoneinfo = None
"#,
    );
}

#[test]
fn an_import_for_want_of_another_is_for_another_version() {
    holds(
        r#"
import sys
def label(text: str) -> str:
    try:
        from urllib.parse import quote
    except ImportError:
        from urllib import quote
    return quote(text)

try:
    import ferries_of_old
except ImportError:
    import ferries_of_older as ferries_of_old

from urllib import quote  #! import.unresolved "no `quote`"
"#,
    );
}

#[test]
fn what_every_module_has_can_be_imported() {
    holds(
        r#"
from json import __doc__ as words, __name__ as name
from json import nothing  #! import.unresolved

print(words, name)
"#,
    );
}

#[test]
fn what_a_module_makes_on_demand_behind_the_checker_is_not_there() {
    holds(
        r#"
import berths
import quays
from berths import anything  #! import.unresolved
from quays import whatever

berths.north
berths.south  #! member.absent
quays.south

#- berths.py
from typing import TYPE_CHECKING

north = 1

if not TYPE_CHECKING:
    def __getattr__(name: str): ...

#- quays.py
def __getattr__(name: str): ...
"#,
    );
}
