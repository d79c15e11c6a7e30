//! What methods and attributes of a class may be where a base has them.

use super::holds;

#[test]
fn a_method_takes_and_gives_what_that_of_the_base_does() {
    holds(
        r#"
class Vessel:
    def load(self, tons: int, deck: int = 0) -> int:
        return tons

    def call(self, *args, **kwargs): ...
    def name(self) -> str:
        return ""

    def key(self, *, strict: bool) -> None: ...

class Fewer(Vessel):
    def load(self, tons: int) -> int:  #! class.override "does not take `deck`"
        return tons

    def call(self, one): ...

class More(Vessel):
    def load(self, tons: int, deck: int, side: str) -> int:  #! class.override "asks for `side`"
        return tons

    def name(self) -> int:  #! class.override "gives `int`, not `str`"
        return 3

class Narrow(Vessel):
    def load(self, tons: bool, deck: int = 0) -> int:  #! class.override "takes `bool`, not `int`"
        return 3

    def key(self) -> None: ...  #! class.override "does not take `strict`"

class Fine(Vessel):
    def load(self, tons: float, deck: int = 0, side: str = "") -> bool:
        return True

    def key(self, *, strict: bool = True, more: int = 1) -> None: ...

class Open(Vessel):
    def load(self, *args: int) -> int:
        return 3
"#,
    );
}

#[test]
fn annotated_overrides_keep_the_names_that_callers_use() {
    holds(
        r#"
class Vessel:
    def load(self, cars: int) -> int:
        return cars

    def stow(self, cars):
        return cars

    @classmethod
    def of(cls, name: str) -> "Vessel":
        return cls()

    @staticmethod
    def weight(cars: int) -> float:
        return 2.0 * cars

    def _own(self, cars: int) -> int:
        return cars

class Ferry(Vessel):
    def load(self, number: int) -> int:  #! class.override "it calls `cars` `number`"
        return number

    def stow(self, number):
        return number

    @classmethod
    def of(cls, name: int) -> "Ferry":  #! class.override "for `name` it takes `int`, not `str`"
        return cls()

    @staticmethod
    def weight(cars: str) -> float:  #! class.override
        return 2.0
"#,
    );
}

#[test]
fn properties_attributes_and_signatures_stand_in_for_those_of_bases() {
    holds(
        r#"
from typing import Any, Generic, TypeVar, overload
from typing_extensions import override

T = TypeVar("T")

class Vessel:
    cars: int = 3
    deck: float
    loose: Any

    @property
    def name(self) -> str:
        return ""

    @property
    def port(self) -> object:
        return ""

    def length(self) -> float:
        return 3.0

    @overload
    def find(self, key: int) -> int: ...
    @overload
    def find(self, key: str) -> str: ...
    def find(self, key):
        return key

class Ferry(Vessel):
    cars: str = "x"  #! class.override "`Ferry.cars` cannot stand in for `Vessel.cars`: it holds `str`, not `int`"
    deck: int
    loose: int

    @property
    def name(self) -> int:  #! class.override "it gives `int`, not `str`"
        return 3

    @property
    def port(self) -> str:
        return ""

    @property
    def length(self) -> float:  #! class.override "it is a property, not a method"
        return 3.0

    def find(self, key: int) -> int:  #! class.override "none of its signatures goes with signature 2"
        return key

class Tug(Vessel):
    name: str = "Tern"
    port: str = "x"

    @overload
    def find(self, key: int) -> int: ...  #! class.overlap
    @overload
    def find(self, key: object) -> str: ...
    def find(self, key):
        return key

class Barge(Vessel):
    def name(self) -> str:  #! class.override "it is a method, not a property"
        return ""

    @override
    def length(self) -> float:
        return 2.0

    @override
    def lenght(self) -> float:  #! class.override "marked with `override`"
        return 2.0

class Loose(Vessel):
    def name(self):
        return ""

    find = None

class Box(Generic[T]):
    item: T

    @property
    def first(self) -> T:
        raise NotImplementedError

class Crate(Box[int]):
    item: str  #! class.override "it holds `str`, not `int`"

    @property
    def first(self) -> int:
        return 3
"#,
    );
}

#[test]
fn a_mark_of_standing_in_is_believed_where_bases_are_unknown() {
    holds(
        r#"
from harbour import Berth  #! import.unresolved
from typing import override

class Pier(Berth):
    @override
    def free(self) -> int:
        return 3
"#,
    );
}

#[test]
fn what_is_by_keyword_only_is_compared_in_overrides() {
    holds(
        r#"
class Vessel:
    def load(self, cars: int = 0, *, deck: str = "", heavy: bool = False) -> None: ...

class Ferry(Vessel):
    def load(self, cars: int = 0, *, deck: int = 0, heavy: bool = False) -> None: ...  #! class.override "for `deck` it takes `int`, not `str`"

class Tug(Vessel):
    def load(self, cars: int, *, deck: str = "", heavy: bool = False) -> None: ...  #! class.override "it asks for `cars`"

class Barge(Vessel):
    def load(self, cars: int = 0, *, deck: str, heavy: bool = False) -> None: ...  #! class.override "it asks for `deck`"

class Yacht(Vessel):
    def load(self, cars: float = 0, deck: object = "", heavy: bool = False, *, light: bool = True) -> None: ...
"#,
    );
}
