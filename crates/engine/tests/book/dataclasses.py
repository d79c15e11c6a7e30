#= Dataclasses

#. A dataclass's constructor takes its fields in their order.
from dataclasses import dataclass


@dataclass
class Fare:
    name: str
    price: int = 3


Fare("adult")
Fare("adult", 4)
Fare(price=4, name="adult")
Fare()  #! call.missing
Fare("adult", "four")  #! call.argument
Fare("adult", 4, 5)  #! call.surplus

#. A field without a default does not follow one that has one.
from dataclasses import dataclass, field


@dataclass
class Wrong:
    price: int = 3
    name: str  #! class.field


@dataclass
class Right:
    name: str
    price: int = 3
    late: bool = field(default=False)

#. A field's default fits its type.
from dataclasses import dataclass, field


@dataclass
class Fare:
    price: int = "three"  #! value.assign
    rows: list[int] = field(default_factory=list)
    wrong: list[int] = field(default_factory=dict)  #! value.assign
    size: int = field(default="big")  #! value.assign
    depth: float = field(default=3)
    names: list[str] = field(default_factory=lambda: [3])  #! value.assign

#. A container is no default: all objects would share it.
from dataclasses import dataclass, field


@dataclass
class Fare:
    rows: list[int] = []  #! class.field
    more: dict[str, int] = {}  #! class.field
    fine: list[int] = field(default_factory=list)

#. `field(init=False)` is not taken by the constructor.
from dataclasses import dataclass, field


@dataclass
class Fare:
    name: str
    count: int = field(init=False, default=0)


Fare("adult")
Fare("adult", 3)  #! call.surplus
Fare("adult", count=3)  #! call.keyword

#. `kw_only` fields are given by name.
from dataclasses import KW_ONLY, dataclass, field


@dataclass(kw_only=True)
class All:
    name: str


@dataclass
class Behind:
    name: str
    _: KW_ONLY
    price: int = 3


@dataclass
class One:
    price: int = field(kw_only=True)
    name: str


All(name="x")
All("x")  #! call.surplus
Behind("x", price=4)
Behind("x", 4)  #! call.surplus
One("x", price=3)
One(3, "x")  #! call.surplus

#. There is one `KW_ONLY` at most.
from dataclasses import KW_ONLY, dataclass


@dataclass
class Marked:
    _: KW_ONLY
    one: int
    __: KW_ONLY  #! class.field
    two: int

#. A frozen dataclass's fields are not assigned or deleted.
from dataclasses import dataclass


@dataclass(frozen=True)
class Spot:
    x: int

    def move(self) -> None:
        self.x = 4  #! member.readonly


def use(spot: Spot) -> None:
    spot.x = 3  #! member.readonly
    del spot.x  #! member.readonly
    spot.x

#. A frozen dataclass does not derive from one that is not, nor the other way round.
from dataclasses import dataclass


@dataclass(frozen=True)
class Cold:
    x: int


@dataclass
class Warm:
    x: int


@dataclass  #! class.base
class Thawed(Cold): ...


@dataclass(frozen=True)  #! class.base
class Refrozen(Warm): ...


@dataclass(frozen=True)
class Colder(Cold): ...

#. `order=True` makes the comparisons, which the class does not write itself.
from dataclasses import dataclass


@dataclass(order=True)
class Made:
    x: int


@dataclass
class Plain:
    x: int


@dataclass(order=True)  #! class.field
class Own:
    x: int

    def __lt__(self, other: "Own") -> bool:
        return True


Made(3) < Made(4)
Plain(3) < Plain(4)  #! operator.unsupported
Made(3) < 4  #! operator.unsupported

#. A dataclass that is compared by value and can change has no hash.
from collections.abc import Hashable
from dataclasses import dataclass


@dataclass
class Open:
    x: int


@dataclass(frozen=True)
class Frozen:
    x: int


@dataclass(eq=False)
class Same:
    x: int


a: Hashable = Frozen(3)
b: Hashable = Same(3)
c: Hashable = Open(3)  #! class.protocol
{Open(3): 1}  #! value.unhashable

#. What `InitVar` fields pass on is what `__post_init__` takes.
from dataclasses import InitVar, dataclass


@dataclass
class Right:
    scale: InitVar[int]

    def __post_init__(self, scale: float) -> None: ...


@dataclass
class Wrong:
    scale: InitVar[int]

    def __post_init__(self, scale: str) -> None: ...  #! class.field


@dataclass
class Fewer:
    scale: InitVar[int]

    def __post_init__(self) -> None: ...  #! class.field


@dataclass
class More:
    scale: InitVar[int]

    def __post_init__(self, scale: int, other: str) -> None: ...  #! class.field

#. A subclass's fields come behind those of its bases; one that is declared again keeps its place.
from dataclasses import dataclass


@dataclass
class Base:
    name: str
    price: int = 3


@dataclass
class Sub(Base):
    late: bool = False
    price: int = 4


Sub("x", 3, True)
Sub("x", True, 3)  #! call.argument
Sub("x", 3, "yes")  #! call.argument

#. A subclass that is a dataclass has a constructor of its own, whatever its base wrote.
from dataclasses import dataclass
from typing import Any


@dataclass
class Base:
    x: int

    def __init__(self, **values: Any) -> None: ...


@dataclass
class Sub(Base):
    y: str


Base(x=3)
Base(3)  #! call.surplus
Sub(1, "a")
Sub("a", 1)  #! call.argument

#. A class that derives from a dataclass and is none keeps its constructor.
from dataclasses import dataclass


@dataclass
class Base:
    x: int


class Sub(Base):
    y: str = ""


Sub(3)
Sub(3, "x")  #! call.surplus

#. `ClassVar` is no field.
from dataclasses import dataclass
from typing import ClassVar


@dataclass
class Fare:
    count: ClassVar[int] = 0
    name: str = ""


Fare("x")
Fare(3)  #! call.argument
Fare("x", 3)  #! call.surplus

#. `slots=True` leaves nothing but the fields.
from dataclasses import dataclass


@dataclass(slots=True)
class Rack:
    width: int

    def widen(self) -> None:
        self.width = 4
        self.height = 3  #! member.undeclared


Rack(3).depth = 4  #! member.undeclared
print(Rack.__slots__)

#. `match_args=False` leaves nothing to be matched by position.
from dataclasses import dataclass


@dataclass(match_args=False)
class Closed:
    gears: int


@dataclass
class Open:
    gears: int


def use(c: Closed, o: Open) -> None:
    match c:
        case Closed(g): ...  #! call.surplus
    match o:
        case Open(g, h): ...  #! call.surplus
        case Open(g): ...

#. `init=False` leaves the constructor to the class.
from dataclasses import dataclass


@dataclass(init=False)
class Fare:
    name: str

    def __init__(self, code: int) -> None:
        self.name = str(code)


Fare(3)
Fare("x")  #! call.argument

#. `replace` takes fields, and gives the same class.
from dataclasses import dataclass, replace


@dataclass
class Fare:
    name: str
    price: int


def use(fare: Fare) -> None:
    a: Fare = replace(fare, price=3)
    replace(fare, price="x")  #! call.argument
    replace(fare, cost=3)  #! call.keyword

#. `asdict`, `fields` and the like take dataclasses.
from dataclasses import asdict, astuple, dataclass, fields


@dataclass
class Fare:
    name: str


asdict(Fare("x"))
asdict(3)  #! class.protocol
astuple("x")  #! class.protocol
fields(Fare)
fields(int)  #! call.argument

#. A decorator that is marked with `dataclass_transform` makes dataclasses.
from typing import dataclass_transform


@dataclass_transform()
def record[T](cls: type[T]) -> type[T]:
    return cls


@record
class Fare:
    name: str
    price: int = 3


Fare("x")
Fare(3)  #! call.argument
Fare()  #! call.missing

#. A base class or a metaclass that is marked makes all classes below it dataclasses.
from typing import dataclass_transform


@dataclass_transform(kw_only_default=True)
class Model: ...


class Fare(Model):
    name: str
    price: int = 3


Fare(name="x")
Fare("x")  #! call.surplus
Fare(name=3)  #! call.argument

#. A field specifier's `alias` is what the constructor calls the field.
from typing import Any, dataclass_transform


def described(*, default: Any = ..., alias: str | None = None) -> Any: ...


@dataclass_transform(field_specifiers=(described,))
def record[T](cls: type[T]) -> type[T]:
    return cls


@record
class Fare:
    name: str = described(alias="title")


Fare(title="x")
Fare(name="x")  #! call.keyword

#. A generic dataclass is made with what its fields take.
from dataclasses import dataclass


@dataclass
class Box[T]:
    inside: T


a: int = Box(3).inside
b: str = Box(3).inside  #! value.assign
Box[str](3)  #! call.argument

#. Fields are attributes with their types.
from dataclasses import dataclass


@dataclass
class Fare:
    name: str
    price: int = 3


def use(fare: Fare) -> None:
    a: str = fare.name
    fare.price = 4
    fare.price = "x"  #! value.assign
    fare.cost  #! member.absent
