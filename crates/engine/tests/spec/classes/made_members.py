import enum
from dataclasses import dataclass, field
from typing import Generic, NamedTuple, Self, TypedDict, TypeVar


@dataclass
class Fare:
    pence: int
    category: str = "adult"
    notes: list[str] = field(default_factory=list)

    def doubled(self) -> Self:
        return self


Fare(3).doubled().pence  #= int
Fare()  #! call.missing "`pence`"
Fare("3")  #! call.argument
Fare(3, "child", [], 4)  #! call.surplus


class Point(NamedTuple):
    x: int
    y: str = ""


Point(1).x  #= int
Point(1)[1]  #= str
a, b = Point(1)
b  #= str


class Record(TypedDict):
    name: str
    length: float


def read(record: Record):
    record["length"]  #= float


class Sea(enum.Enum):
    CALM = 1
    ROUGH = 2


Sea.CALM  #= Literal[Sea.CALM]
Sea.CALM.name  #= Literal["CALM"]
Sea(2)  #= Sea
for sea in Sea:
    sea  #= Sea

T = TypeVar("T")


class Box(Generic[T]):
    def __init__(self, item: T) -> None:
        self.item = item

    def get(self) -> T:
        return self.item


Box(3)  #= Box[int]
Box("x").get()  #= str
