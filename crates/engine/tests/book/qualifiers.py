#= Type qualifiers

#. `Final` says that a name gets no other value.
from typing import Final

BERTHS: Final = 4
DEPTH: Final[float] = 3.5
BERTHS = 5  #! class.final
DEPTH += 1  #! class.final

#. A final name is not rebound by a loop, a `with`, an import, `del` or `:=`.
from typing import Final

TOP: Final = 3
for TOP in range(3): ...  #! class.final
with open("log") as TOP: ...  #! class.final
if (TOP := 4): ...  #! class.final
other = TOP

#. A final name has a value where it is declared, outside of classes.
from typing import Final

bare: Final  #! class.final
typed: Final[int]  #! class.final
right: Final = 3


def inside() -> None:
    local: Final[str]  #! class.final

#. A final attribute without a value in the class gets one in `__init__`.
from typing import Final


class Right:
    berths: Final[int]

    def __init__(self) -> None:
        self.berths = 3


class Wrong:
    berths: Final[int]  #! class.final

    def __init__(self) -> None: ...

#. A final attribute with a value in the class is not set in `__init__`.
from typing import Final


class Vessel:
    berths: Final = 3

    def __init__(self) -> None:
        self.berths = 4  #! member.readonly

#. A final attribute is declared in the class's body or in `__init__`.
from typing import Final


class Vessel:
    def __init__(self) -> None:
        self.name: Final = "Selkie"

    def rename(self) -> None:
        self.late: Final = 1  #! class.final

#. A final attribute is set by nobody else.
from typing import Final


class Vessel:
    def __init__(self) -> None:
        self.name: Final = "Selkie"

    def rename(self) -> None:
        self.name = "Tern"  #! member.readonly


Vessel().name = "Tern"  #! member.readonly
Vessel().name

#. A subclass gives a final attribute no other value.
from typing import Final


class Vessel:
    berths: Final = 3
    name = "Selkie"


class Ferry(Vessel):
    berths = 4  #! class.final
    name = "Tern"

#. Another module does not set a final name.
import limits

limits.SPEED = 50  #! class.final
limits.depth = 4
limits.SPEED

#- limits.py
from typing import Final

SPEED: Final = 30
depth = 3

#. A final name keeps the literal type of its value.
from typing import Final, Literal

SIDE: Final = "port"
side = "port"


def moor(side: Literal["port", "starboard"]) -> None: ...


def use() -> None:
    moor(SIDE)
    TALL: Final = "mast"
    moor(TALL)  #! call.argument

#. `Final` stands around the whole of a variable's type, and nowhere else.
from typing import Final


def wrong(x: Final[int]) -> None: ...  #! annotation.place
def given() -> Final[int]: ...  #! annotation.place
listed: list[Final[int]] = []  #! annotation.place
right: Final[list[int]] = []

#. `Final` takes one type at most.
from typing import Final

wrong: Final[int, str] = 3  #! annotation.form
right: Final[int] = 3

#. A class that is final has no subclasses.
from typing import final


@final
class Buoy: ...


class Bell(Buoy): ...  #! class.final
class Other: ...

#. A method that is final is not overridden.
from typing import final


class Vessel:
    @final
    def sail(self) -> None: ...

    @final
    @classmethod
    def make(cls) -> None: ...

    def moor(self) -> None: ...


class Ferry(Vessel):
    def sail(self) -> None: ...  #! class.final

    @classmethod
    def make(cls) -> None: ...  #! class.final

    def moor(self) -> None: ...

#. A private final method is a class's own.
from typing import final


class Vessel:
    @final
    def __hull(self) -> None: ...

    @final
    def _keel(self) -> None: ...


class Ferry(Vessel):
    def __hull(self) -> None: ...
    def _keel(self) -> None: ...  #! class.final

#. A final property is not overridden either.
from typing import final


class Vessel:
    @final
    @property
    def length(self) -> int:
        return 30

    @property
    def width(self) -> int:
        return 6


class Ferry(Vessel):
    @property
    def length(self) -> int:  #! class.final
        return 40

    @property
    def width(self) -> int:
        return 7

#. `@final` says nothing of a function that is no method.
from typing import final


@final  #! class.final
def sail() -> None: ...


class Vessel:
    @final
    def sail(self) -> None: ...

#. `ClassVar` stands around the whole type of a variable in a class's body.
from typing import ClassVar


class Vessel:
    count: ClassVar[int] = 0
    bare: ClassVar = 3
    inner: list[ClassVar[int]] = []  #! annotation.place

    def sail(self, x: ClassVar[int]) -> None:  #! annotation.place
        self.local: ClassVar[int] = 3  #! annotation.place


outside: ClassVar[int] = 3  #! annotation.place

#. A class variable is not set through an object.
from typing import ClassVar


class Vessel:
    count: ClassVar[int] = 0
    name: str = ""

    def launch(self) -> None:
        self.count = 3  #! member.readonly
        type(self).count = 3


Vessel.count = 4
Vessel().count = 4  #! member.readonly
Vessel().count
Vessel().name = "Tern"

#. `ClassVar` holds no type variable.
from typing import ClassVar, Self


class Row[T]:
    one: ClassVar[T]  #! annotation.place
    many: ClassVar[list[T]]  #! annotation.place
    plain: ClassVar[list[int]]
    own: ClassVar[Self]

#. Qualifiers do not stand in themselves.
from typing import ClassVar, NotRequired, Required, TypedDict


class Vessel:
    twice: ClassVar[ClassVar[int]] = 0  #! annotation.place
    once: ClassVar[int] = 0


class Fare(TypedDict):
    adult: Required[NotRequired[int]]  #! annotation.place
    child: NotRequired[int]

#. `ClassVar` takes one type at most.
from typing import ClassVar


class Vessel:
    wrong: ClassVar[int, str]  #! annotation.form
    right: ClassVar[int]

#. `Required`, `NotRequired` and `ReadOnly` stand by the items of typed dictionaries.
#- python 3.13
from typing import NotRequired, ReadOnly, Required, TypedDict


class Fare(TypedDict):
    adult: Required[int]
    child: NotRequired[int]
    code: ReadOnly[str]


class Vessel:
    berths: Required[int]  #! annotation.place
    name: ReadOnly[str]  #! annotation.place


def wrong(x: NotRequired[int]) -> None: ...  #! annotation.place

#. `Annotated` may stand around or within qualifiers.
from typing import Annotated, ClassVar, Final


class Vessel:
    count: ClassVar[Annotated[int, "of all"]] = 0
    top: Final[Annotated[int, "knots"]] = 30

    def sail(self) -> None:
        self.top = 31  #! member.readonly

#. `InitVar` is a parameter of the constructor, and no attribute.
from dataclasses import InitVar, dataclass


@dataclass
class Voyage:
    name: str
    start: InitVar[int]

    def __post_init__(self, start: int) -> None: ...


Voyage("out", 3).name
Voyage("out", 3).start  #! member.absent
Voyage("out", "three")  #! call.argument
