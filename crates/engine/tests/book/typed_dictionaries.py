#= Typed dictionaries

#. A typed dictionary is made of a display with its keys, no more and no fewer.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


a: Fare = {"name": "adult", "price": 3}
b: Fare = {"name": "adult"}  #! value.assign
c: Fare = {"name": "adult", "price": 3, "late": True}  #! value.assign
d: Fare = {"name": "adult", "price": "three"}  #! value.assign
e: Fare = {"name": "adult", 3: 3}  #! value.assign

#. A typed dictionary is called with its items by name.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


Fare(name="adult", price=3)
Fare(name="adult")  #! call.missing
Fare(name="adult", price=3, late=True)  #! call.keyword
Fare(name=3, price=3)  #! call.argument

#. An item is read by its key.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


def use(fare: Fare) -> None:
    a: str = fare["name"]
    b: int = fare["name"]  #! value.assign
    fare["cost"]  #! index.range

#. A key is a text that is written out.
from typing import Literal, TypedDict


class Fare(TypedDict):
    name: str
    price: int


def use(fare: Fare, key: str, one: Literal["name", "price"]) -> None:
    a: str | int = fare[one]
    fare[0]  #! index.unsupported
    fare[key]  #! index.unsupported

#. An item is assigned what it holds.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


def use(fare: Fare) -> None:
    fare["price"] = 4
    fare["price"] = "four"  #! value.item
    fare["cost"] = 4  #! index.range

#. An item that must be there is not deleted.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    name: str
    price: NotRequired[int]


def use(fare: Fare) -> None:
    del fare["price"]
    del fare["name"]  #! member.readonly
    del fare["cost"]  #! index.range

#. Items are no attributes.
from typing import TypedDict


class Fare(TypedDict):
    name: str


def use(fare: Fare) -> None:
    fare.name  #! member.absent
    fare.keys()
    fare["name"]

#. `get` gives None where an item need not be there, or the default.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    name: str
    price: NotRequired[int]


def use(fare: Fare) -> None:
    a: str = fare.get("name")
    b: int | None = fare.get("price")
    c: int = fare.get("price", 0)
    d: int = fare.get("price")  #! value.assign

#. `clear` and `popitem` would take items away that must be there.
from typing import TypedDict


class Fare(TypedDict):
    name: str


def use(fare: Fare) -> None:
    fare.clear()  #! member.absent
    fare.popitem()  #! member.absent
    fare.copy()

#. `pop` takes only items that need not be there.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    name: str
    price: NotRequired[int]


def use(fare: Fare) -> None:
    a: int = fare.pop("price")
    fare.pop("name")  #! member.readonly
    fare.pop("cost")  #! index.range

#. `setdefault` takes what the item holds.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    name: str
    bell: NotRequired[str]


def use(fare: Fare) -> None:
    a: str = fare.setdefault("bell", "x")
    fare.setdefault("bell", 3)  #! value.item

#. `update` takes items that fit.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


def use(fare: Fare) -> None:
    fare.update({"price": 3})
    fare.update({"price": "x"})  #! value.item
    fare.update({"cost": 3})  #! index.range

#. `|` and `|=` take items that fit, and give such a dictionary again.
from typing import TypedDict


class Fare(TypedDict):
    name: str
    price: int


def use(fare: Fare) -> None:
    a: Fare = fare | {"price": 3}
    fare |= {"price": 4}
    fare |= {"price": "x"}  #! value.item

#. `in` narrows unions of typed dictionaries.
from typing import TypedDict


class Road(TypedDict):
    width: int


class Trail(TypedDict):
    slope: float


def use(way: Road | Trail) -> None:
    if "width" in way:
        way["width"]
    else:
        way["slope"]
        way["width"]  #! index.range

#. Of one of several typed dictionaries, each must have the key.
from typing import Literal, TypedDict


class Road(TypedDict):
    kind: Literal["road"]
    width: int


class Trail(TypedDict):
    kind: Literal["trail"]
    slope: float


def use(way: Road | Trail) -> None:
    way["kind"]
    way["width"]  #! index.range
    if way["kind"] == "road":
        way["width"]

#. `isinstance` is not asked about a typed dictionary.
from typing import TypedDict


class Fare(TypedDict):
    name: str


def use(x: object) -> None:
    isinstance(x, Fare)  #! value.not-class
    isinstance(x, dict)

#. A typed dictionary has annotated items, and nothing else.
from typing import TypedDict


class Right(TypedDict):
    """Fares."""

    name: str


class Wrong(TypedDict):
    size: int = 3  #! class.field

    def spin(self) -> None: ...  #! class.field

#. A typed dictionary derives from typed dictionaries only.
from typing import Generic, TypedDict, TypeVar

T = TypeVar("T")


class Fare(TypedDict):
    name: str


class Right(Fare):
    price: int


class Also(TypedDict, Generic[T]):
    inside: T


class Wrong(dict[str, int], TypedDict):  #! class.base
    size: int


class Other(Fare, int):  #! class.base
    size: int

#. A typed dictionary takes no keywords but `total`, and those of closed ones.
from typing import TypedDict


class Right(TypedDict, total=False):
    size: int


class Wrong(TypedDict, strict=True):  #! call.keyword
    size: int


class Meta(TypedDict, metaclass=type):  #! call.keyword
    size: int

#. `total=False` says that items need not be there.
from typing import Required, TypedDict


class Fare(TypedDict, total=False):
    name: Required[str]
    price: int


a: Fare = {"name": "x"}
b: Fare = {"price": 3}  #! value.assign

#. `total` holds for the class's own items, not for those of its bases.
from typing import TypedDict


class Base(TypedDict):
    name: str


class Sub(Base, total=False):
    price: int


a: Sub = {"name": "x"}
b: Sub = {}  #! value.assign

#. An item is not declared again as something else.
from typing import TypedDict


class Wheel(TypedDict):
    size: int


class Same(Wheel):
    size: int


class Retyped(Wheel):
    size: str  #! class.field

#. An item that must be there by a base must be there.
from typing import NotRequired, Required, TypedDict


class Wheel(TypedDict):
    size: int
    kind: NotRequired[str]


class Looser(Wheel):
    size: NotRequired[int]  #! class.field


class Tighter(Wheel):
    kind: Required[str]  #! class.field


class Same(Wheel):
    kind: NotRequired[str]

#. An item that may be changed by a base may be changed.
#- python 3.13
from typing import ReadOnly, TypedDict


class Wheel(TypedDict):
    size: int
    code: ReadOnly[object]


class Frozen(Wheel):
    size: ReadOnly[int]  #! class.field


class Narrower(Wheel):
    code: ReadOnly[str]


class Opened(Wheel):
    code: str

#. Bases that both have an item have it alike.
from typing import TypedDict


class One(TypedDict):
    size: int


class Two(TypedDict):
    size: str


class Three(TypedDict):
    size: int


class Wrong(One, Two): ...  #! class.field
class Right(One, Three): ...

#. An item that is only read is not assigned.
#- python 3.13
from typing import ReadOnly, TypedDict


class Fare(TypedDict):
    code: ReadOnly[str]
    price: int


def use(fare: Fare) -> None:
    fare["price"] = 3
    fare["code"] = "x"  #! member.readonly
    fare.update({"code": "x"})  #! member.readonly

#. A typed dictionary fits another whose items it all has, alike.
from typing import NotRequired, TypedDict


class Wide(TypedDict):
    name: str
    price: int


class Narrow(TypedDict):
    name: str


class Loose(TypedDict):
    name: NotRequired[str]


def use(wide: Wide, narrow: Narrow) -> None:
    a: Narrow = wide
    b: Wide = narrow  #! value.assign
    c: Loose = narrow  #! value.assign

#. Items that may be changed are of just the same type.
#- python 3.13
from typing import ReadOnly, TypedDict


class Whole(TypedDict):
    size: int


class Real(TypedDict):
    size: float


class Read(TypedDict):
    size: ReadOnly[float]


def use(whole: Whole) -> None:
    a: Real = whole  #! value.assign
    b: Read = whole

#. A typed dictionary is a mapping from texts to objects, and no `dict`.
from collections.abc import Mapping
from typing import Any, TypedDict


class Fare(TypedDict):
    price: int


def use(fare: Fare) -> None:
    a: Mapping[str, object] = fare
    b: dict[str, Any] = fare  #! value.assign
    c: dict[str, object] = fare  #! value.assign
    d: Mapping[str, int] = fare  #! value.assign
    e: Mapping[int, object] = fare  #! value.assign

#. A `dict` is no typed dictionary.
from typing import Any, TypedDict


class Fare(TypedDict):
    price: int


def use(d: dict[str, int], a: Any) -> None:
    x: Fare = a
    y: Fare = d  #! value.assign

#. The call form makes the same, also with keys that are no names.
from typing import TypedDict

Fare = TypedDict("Fare", {"price": int, "width in mm": int})
Loose = TypedDict("Loose", {"price": int}, total=False)


def use(fare: Fare) -> None:
    fare["width in mm"]
    fare["width"]  #! index.range


a: Fare = {"price": 3, "width in mm": 4}
b: Fare = {"price": 3, "width in mm": "x"}  #! value.assign
c: Loose = {}

#. A generic typed dictionary is solved by its call.
from typing import TypedDict


class Bag[T](TypedDict):
    inside: T


a: Bag[int] = Bag(inside=3)
b: Bag[str] = Bag(inside=3)  #! value.assign
c: Bag[int] = {"inside": "x"}  #! value.assign

#. A key may be tested for before it is read.
from typing import NotRequired, TypedDict


class Fare(TypedDict):
    price: NotRequired[int]


def use(fare: Fare) -> None:
    if "price" in fare:
        a: int = fare["price"]
    b: str = fare["price"]  #! value.assign
