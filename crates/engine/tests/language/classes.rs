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
use(3)  #! class.protocol
"#,
    );
}

#[test]
fn a_class_that_derives_from_a_tuple_has_its_shape() {
    holds(
        r#"
from typing import Generic, Tuple, TypeVar

T = TypeVar("T")

class Inbox(Generic[T]):
    def take(self) -> T: ...

class Outbox(Generic[T]): ...

class channel(Tuple[Outbox[T], Inbox[T]]):
    def __new__(cls, size: int) -> "Tuple[Outbox[T], Inbox[T]]": ...

into, out_of = channel[str](3)
out_of.take()  #= str
"#,
    );
}

#[test]
fn what_setattr_may_have_changed_is_unknown() {
    holds(
        r#"
class Colours:
    RED = 31

    def __init__(self):
        for name in dir(self):
            setattr(self, name, "")

Colours().RED + "x"
#- quiet
"#,
    );
}

#[test]
fn a_descriptor_that_only_sets_leaves_what_instances_hold() {
    holds(
        r#"
class Resetter:
    def __set__(self, target, value):
        target.__dict__["nodes"] = value

class Graph:
    nodes = Resetter()

    def __init__(self):
        self.nodes = {}

    def count(self):
        return len(self.nodes.items())
#- quiet
"#,
    );
}

#[test]
fn a_bool_method_that_always_says_yes_is_believed() {
    holds(
        r#"
from typing import Literal, Optional

class Quay:
    depth = 3

    def __bool__(self) -> Literal[True]:
        return True

def depth(quay: Optional[Quay]) -> None:
    found = quay and quay.depth
    found  #= int | None
"#,
    );
}

#[test]
fn attributes_that_another_module_assigns_are_there() {
    holds(
        r#"
import ferry

ferry.session.close()
#- ferry.py
name = "Skerry"
#- setup.py
import ferry

ferry.session = open("log")
#- quiet
"#,
    );
}

#[test]
fn a_method_may_hide_the_builtin_that_an_annotation_means() {
    holds(
        r#"
from __future__ import annotations

class Harbour:
    def list(self) -> int:
        return 3

    def names(self) -> list[str]:  #! name.shadowed "hides the built-in `list`"
        return []

def names() -> list[str]:
    return []
"#,
    );
}

#[test]
fn an_annotation_before_a_method_does_not_mean_it() {
    holds(
        r#"
from __future__ import annotations
import datetime

class Fleet:
    def many(self, names: list[str]) -> list[int]:
        return [1]

    @property
    def datetime(self) -> datetime.date:
        return datetime.date.today()

    def list(self) -> list[int]:
        return [1]

    def more(self) -> list[int]:  #! name.shadowed "`list`"
        return [1]

Fleet().many(["Tern"])  #= list[int]
Fleet().datetime  #= date
"#,
    );
}

#[test]
fn metaclasses_answer_for_their_classes() {
    holds(
        r#"
from typing import Any, Iterator, TypeVar

T = TypeVar("T")

class Register(type):
    @property
    def size(cls) -> int:
        return 3

    def __getitem__(cls, key: str) -> float:
        return 1.0

    def __iter__(cls) -> Iterator[bytes]: ...

    def __call__(cls, *args: Any) -> int:
        return 3

class Vessel(metaclass=Register):
    pass

class Single(type):
    def __call__(cls: type[T], *args: Any, **kwargs: Any) -> T: ...

class Office(metaclass=Single):
    pass

Vessel.size  #= int
Vessel["Tern"]  #= float
Vessel()  #= int
Office()  #= Office
for name in Vessel:
    name  #= bytes
"#,
    );
}

#[test]
fn descriptors_take_what_their_set_takes() {
    holds(
        r#"
class Length:
    def __get__(self, owner: object, kind: type) -> int: ...
    def __set__(self, owner: object, value: str) -> None: ...

class Vessel:
    length = Length()
    beam: Length = Length()

Vessel().length  #= int
Vessel().length = "30 m"
Vessel().length = 30  #! value.assign "declared as `str`"
Vessel().beam = 3  #! value.assign "declared as `str`"
"#,
    );
}

#[test]
fn methods_called_on_the_class_give_what_they_are_given() {
    holds(
        r#"
from typing import Self
import enum


class Vessel:
    def copy(self) -> Self:
        return self


class Ferry(Vessel):
    def copy(self, deep: bool = False) -> Self:
        same: Self = Vessel.copy(self)
        return same


def read(ferry: Ferry) -> None:
    Vessel.copy(ferry)  #= Ferry


class Kinds(enum.Flag):
    ROUGH = enum.auto()
    CALM = enum.auto()
    ANY = ROUGH | CALM
"#,
    );
}

#[test]
fn a_copy_of_the_object_is_of_its_own_class_whatever_that_is() {
    holds(
        r#"
import copy


class Vessel:
    def copy(self):
        return copy.copy(self)

    def deep(self):
        clone = copy.deepcopy(self)
        clone.copied = True
        return clone

    def made(self):
        return type(self).__new__(type(self))

    def again(self):
        return self.copy().deep()


class Ferry(Vessel):
    def __init__(self):
        self.cars = 12

    def copy(self):
        clone = super().copy()
        clone.cars = self.cars
        return clone


class Catamaran(Ferry):
    hulls = 2


Catamaran().copy()  #= Catamaran
Catamaran().deep()  #= Catamaran
Catamaran().made()  #= Catamaran
Catamaran().again()  #= Catamaran
Ferry().again().cars  #= int
"#,
    );
}

#[test]
fn reading_its_own_namespace_leaves_a_class_known() {
    holds(
        r#"
class Vessel:
    name = "Gull"

    def __getstate__(self):
        return {key: self.__dict__[key] for key in sorted(self.__dict__) if key not in ("tide",)}

    def __setstate__(self, state):
        self.__dict__.update(state)


class Ferry:
    name = "Gull"

    def __init__(self, fields):
        self.__dict__.update(fields)


Vessel().name  #= str
Vessel().cars  #! member.absent "has no attribute `cars`"
Ferry({}).cars
"#,
    );
}

#[test]
fn attributes_that_their_module_makes_by_computed_names_are_there() {
    holds(
        r#"
from codes import codes
import codes as module

codes.closed
module.codes.closed
codes.name  #= str
#- tables.py
class Table:
    def __init__(self, name):
        self.name = str(name)
#- codes.py
from tables import Table

codes = Table("berths")
for number, name in enumerate(["open", "closed"]):
    setattr(codes, name, number)
"#,
    );
}

#[test]
fn a_bare_declaration_binds_nothing_in_the_class_body() {
    holds(
        r#"
#- berths.py
DEEPEST = 12
#- main.py
import berths

class Harbour:
    berths: dict[str, int]

    def depth(self, limit=berths.DEEPEST) -> int:
        self.berths  #= dict[str, int]
        return limit
"#,
    );
}

#[test]
fn names_for_checkers_alone_are_those_outside() {
    holds(
        r#"
#- quiet
from typing import TYPE_CHECKING

class Engine: ...

def is_engine(kind: type) -> bool:
    if not TYPE_CHECKING:
        Engine = int
    return issubclass(kind, Engine)
"#,
    );
}

#[test]
fn callables_of_the_class_are_bound_where_they_take_its_objects() {
    holds(
        r#"
from collections.abc import Callable
from typing import ClassVar

class Sailing:
    validate: ClassVar[Callable[["Sailing"], None]]
    fare: ClassVar[Callable[[int], float]]

    def check(self) -> None:
        self.validate()
        self.validate(self)  #! call.surplus
        self.fare(3)  #= float
"#,
    );
}

#[test]
fn methods_of_some_class_or_other_are_its_own() {
    holds(
        r#"
from types import ModuleType
from typing import Any

def patch(kind: type[Any], module: ModuleType) -> None:
    kind.__setattr__(kind(), "berth", 3)
    kind.__init__(kind(), 3, 4)
    module.__version__  #= Any
    module.berths  #= Any
    len(module)  #! class.protocol
"#,
    );
}

#[test]
fn methods_that_only_give_none_are_there_for_subclasses() {
    holds(
        r#"
class Compiler:
    def hint(self, berths):
        return None

    def plain(self):
        """Nothing here."""
        return

    def found(self, berths):
        if berths:
            return None

    def shown(self) -> str:
        self.hint(3)  #= unknown
        self.plain()  #= unknown
        self.found(3)  #= None
        return self.hint(3)
"#,
    );
}

/// Where an unknown base makes a description of a class statement, its methods have no place for the instance, and what
/// implements it does not derive from it.

#[test]
fn descriptions_are_no_types() {
    holds(
        r#"
from harbour_parts import Interface  #! import.unresolved


class IBerth(Interface):
    def moor(vessel): ...

    def leave(): ...


class ILongBerth(IBerth):
    length = 1


class INumbered(Interface):
    number = 1


class Pier:
    def moor(self, vessel: str) -> None: ...

    def leave(self) -> None: ...


class Vessel(Interface):
    def sail(self) -> None: ...


def count(berth: INumbered) -> int:
    return berth.number


def moor(berth: IBerth, long: ILongBerth, vessel: Vessel) -> None:
    count(Pier())
    berth.moor("Skerry")
    berth.leave()
    long.leave()
    vessel.sail(1)  #! call.surplus


moor(Pier(), Pier(), Pier())  #! call.argument
"#,
    );
}

#[test]
fn one_of_several_classes_makes_one_of_their_objects() {
    holds(
        r#"
class Gale(Exception):
    pass

def make(kind: str):
    kinds = {"gale": Gale, "value": ValueError}
    warning = Exception.__new__(kinds.get(kind, Gale))
    warning  #= Gale | ValueError
    Exception.__init__(warning, kind)
"#,
    );
}

#[test]
fn a_metaclass_that_writes_its_namespace_by_names_makes_attributes_of_descriptions() {
    holds(
        r#"
class Field:
    def __init__(self, kind: type) -> None:
        self.kind = kind

    def made(self) -> property:
        return property(lambda self: 3)

class Meta(type):
    def __new__(cls, name, bases, namespace):
        for key, value in list(namespace.items()):
            if isinstance(value, Field):
                namespace[key] = value.made()
        return super().__new__(cls, name, bases, namespace)

class Record(metaclass=Meta):
    length = Field(int)
    port = "north"

class Plain:
    length = Field(int)

Record().length + 1
Record().port  #= str
Plain().length + 1  #! operator.unsupported
"#,
    );
}

#[test]
fn what_is_made_on_demand_behind_the_checker_is_not_there() {
    holds(
        r#"
from typing import TYPE_CHECKING, Any

class Desk:
    name = "north"

    if not TYPE_CHECKING:
        def __getattr__(self, name: str) -> Any: ...

class Open:
    def __getattr__(self, name: str) -> int: ...

Desk().name
Desk().port  #! member.absent
Open().port + 1
"#,
    );
}

#[test]
fn each_part_of_an_attribute_that_may_be_a_descriptor_is_read_as_such() {
    holds(
        r#"
class Depth:
    def __get__(self, holder: object, owner: type | None = None) -> float: ...

def chosen(deep: bool):
    return Depth() if deep else "shallow"

class Berth:
    depth = chosen(True)

Berth().depth  #= float | str
"#,
    );
}
