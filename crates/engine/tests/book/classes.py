#= Class type assignability

#. A subclass's object stands for one of its base.
class Vessel: ...
class Ferry(Vessel): ...
class Quay: ...


def moor(vessel: Vessel) -> None: ...


moor(Ferry())
moor(Quay())  #! call.argument

#. A class object is no object of the class.
class Vessel: ...


def moor(vessel: Vessel) -> None: ...
def launch(kind: type[Vessel]) -> None: ...


moor(Vessel)  #! call.argument
launch(Vessel)
launch(Vessel())  #! call.argument

#. An attribute that no class declares is not there.
class Vessel:
    name: str = ""

    def __init__(self) -> None:
        self.berths = 3


Vessel().name
Vessel().berths
Vessel().nowhere  #! member.absent
Vessel.name
Vessel.nowhere  #! member.absent

#. What only objects get is not on the class.
class Cart:
    kind = "hand"

    def __init__(self) -> None:
        self.load: list[int] = []


Cart.kind
Cart.load  #! member.absent
Cart().load

#. What a class method puts on the class is on the class.
class Cart:
    @classmethod
    def fill(cls) -> None:
        cls.load = 3

    def empty(self) -> None:
        self.rest = 4


Cart.load
Cart.rest  #! member.absent

#. An attribute takes what it is declared to hold.
class Vessel:
    name: str = ""

    def __init__(self, berths: int) -> None:
        self.berths: int = berths


vessel = Vessel(3)
vessel.name = "Tern"
vessel.name = 3  #! value.assign
vessel.berths = "three"  #! value.assign
Vessel.name = 3  #! value.assign

#. An attribute that only annotated parameters fill takes no more than these.
class Frame:
    def __init__(self, size: int) -> None:
        self.size = size


def use(frame: Frame) -> None:
    frame.size = 3
    frame.size = "big"  #! value.assign

#. An attribute that no class declares is not assigned from outside either.
class Vessel:
    name: str = ""


def use(vessel: Vessel) -> None:
    vessel.name = "Tern"
    vessel.captain = "Ada"  #! member.undeclared

#. What some file assigns to objects of another class is none of this one's.
import other


def speed(turns: int, rack: other.Rack) -> None:
    turns.label  #! member.absent
    (turns + 1).label  #! member.absent
    rack.label

#- other.py
class Rack:
    label: str = ""


def paint(rack: Rack) -> None:
    rack.label = "red"

#. A private name belongs to its class alone.
class Vessel:
    def __hull(self) -> int:
        return 1

    def sink(self) -> int:
        return self.__hull()


Vessel().__hull()  #! member.absent
Vessel().sink()

#. A method that stands in for another takes what that takes.
class Base:
    def moor(self, berth: int) -> None: ...


class Right(Base):
    def moor(self, berth: float, line: str = "") -> None: ...


class Narrower(Base):
    def moor(self, berth: bool) -> None: ...  #! class.override


class Fewer(Base):
    def moor(self) -> None: ...  #! class.override


class More(Base):
    def moor(self, berth: int, line: str) -> None: ...  #! class.override

#. A method that stands in for another gives no more than that.
class Base:
    def berth(self) -> float: ...


class Right(Base):
    def berth(self) -> int: ...


class Wrong(Base):
    def berth(self) -> str: ...  #! class.override

#. Parameters that callers may name keep their names.
class Base:
    def moor(self, berth: int) -> None: ...
    def hoist(self, flag: int, /) -> None: ...


class Sub(Base):
    def moor(self, place: int) -> None: ...  #! class.override
    def hoist(self, sail: int, /) -> None: ...

#. A parameter that may be left out stays one.
class Base:
    def moor(self, berth: int = 3, *, line: str = "") -> None: ...


class Right(Base):
    def moor(self, berth: int = 4, *, line: str = "bow") -> None: ...


class Needed(Base):
    def moor(self, berth: int, *, line: str = "") -> None: ...  #! class.override


class Asked(Base):
    def moor(self, berth: int = 3, *, line: str) -> None: ...  #! class.override

#. Parameters by keyword only are taken by whatever stands in.
class Base:
    def log(self, *, unit: str, depth: int = 0) -> None: ...


class Right(Base):
    def log(self, *, unit: str = "m", depth: int = 0, more: bool = True) -> None: ...


class Lacks(Base):
    def log(self, *, unit: str) -> None: ...  #! class.override


class Any_(Base):
    def log(self, **kwargs: object) -> None: ...

#. What takes any number of arguments of a type is stood in for by what does so too.
class Base:
    def log(self, *values: float, unit: str = "C") -> None: ...


class Lacks(Base):
    def log(self, unit: str = "C") -> None: ...  #! class.override


class Narrower(Base):
    def log(self, *values: int, unit: str = "C") -> None: ...  #! class.override


class Right(Base):
    def log(self, *values: complex, unit: str = "C") -> None: ...

#. `*args: Any` says that a subclass may narrow what it takes.
from typing import Any


class Base:
    def run(self, *args: Any, **kwargs: Any) -> None: ...
    def stop(self, *codes: int) -> None: ...


class Sub(Base):
    def run(self, name: str) -> None: ...
    def stop(self, name: str) -> None: ...  #! class.override

#. `__init__` and `__new__` need not agree with those of bases.
class Base:
    def __init__(self, name: str) -> None: ...
    def name(self) -> str: ...


class Sub(Base):
    def __init__(self, berths: int) -> None: ...
    def name(self) -> int: ...  #! class.override

#. A method does not take the place of a variable, nor a variable that of a method.
class Base:
    name: str = ""

    def read(self) -> int:
        return 1


class Wrong(Base):
    read: int = 3  #! class.override


class Other(Base):
    def name(self) -> str:  #! class.override
        return ""


class Right(Base):
    name: str = "Tern"

#. A method of objects does not stand in for a static or class method.
class Base:
    @staticmethod
    def scale(v: float) -> float:
        return v

    @classmethod
    def make(cls, v: float) -> float:
        return v


class Wrong(Base):
    def scale(self, v: float) -> float:  #! class.override
        return v

    def make(self, v: float) -> float:  #! class.override
        return v


class Right(Base):
    @staticmethod
    def scale(v: float) -> float:
        return v

#. A variable of a subclass holds what the base's holds.
class Base:
    name: str = ""
    depth: float = 0.0


class Right(Base):
    depth: int = 0


class Wrong(Base):
    name: int = 3  #! class.override

#. What a subclass assigns in its body fits what the base declares.
class Base:
    name: str = ""


class Right(Base):
    name = "Tern"


class Wrong(Base):
    name = 3  #! value.assign

#. A property may stand in for a variable as far as reading goes, with the same type.
class Base:
    @property
    def length(self) -> int:
        return 30


class Right(Base):
    @property
    def length(self) -> bool:
        return True


class Wrong(Base):
    @property
    def length(self) -> str:  #! class.override
        return ""

#. A property is no method, and the other way round.
class Base:
    @property
    def length(self) -> int:
        return 30

    def width(self) -> int:
        return 3


class Wrong(Base):
    def length(self) -> int:  #! class.override
        return 30

    @property
    def width(self) -> int:  #! class.override
        return 3

#. Bases that both have a member have it alike, unless the class settles it.
class One:
    def size(self) -> int:
        return 1


class Two:
    def size(self) -> str:
        return ""


class Both(One, Two): ...  #! class.override
class Settled(One, Two):
    def size(self) -> int:  #! class.override
        return 1

#. Names with two underscores in front are no members of bases.
class Base:
    def __keel(self) -> int: ...
    def keel(self) -> int: ...


class Sub(Base):
    def __keel(self) -> str: ...
    def keel(self) -> str: ...  #! class.override

#. What is marked `@override` stands in for something.
from typing import override


class Base:
    def moor(self) -> None: ...


class Sub(Base):
    @override
    def moor(self) -> None: ...

    @override
    def mor(self) -> None: ...  #! class.override


#. An overload in a base is stood in for by signatures that take as much.
from abc import ABC, abstractmethod
from typing import Any, overload


class Base(ABC):
    @overload
    @abstractmethod
    def pack(self, x: int) -> int: ...
    @overload
    @abstractmethod
    def pack(self, x: str) -> str: ...


class Wrong(Base):
    @overload
    def pack(self, x: int) -> int: ...  #! class.override
    @overload
    def pack(self, x: bytes) -> bytes: ...
    def pack(self, x: Any) -> Any: ...


class Right(Base):
    @overload
    def pack(self, x: int) -> int: ...
    @overload
    def pack(self, x: str) -> str: ...
    def pack(self, x: Any) -> Any: ...

#. An abstract class makes no objects; a class that fills in its methods does.
from abc import ABC, abstractmethod


class Vessel(ABC):
    @abstractmethod
    def sail(self) -> None: ...


class Ferry(Vessel):
    def sail(self) -> None: ...


class Raft(Vessel): ...


Vessel()  #! class.abstract
Ferry()
Raft()  #! class.abstract

#. Abstract methods of the library's container classes stay open until they are filled in.
from collections.abc import Iterator, Mapping, Sequence


class Half(Sequence[str]):
    def __len__(self) -> int:
        return 1


class Whole(Sequence[str]):
    def __len__(self) -> int:
        return 1

    def __getitem__(self, at):
        return ""


Half()  #! class.abstract
Whole()

#. `super()` finds what bases have, and nothing else.
class Cart:
    def __init__(self) -> None:
        self.load = 3

    def roll(self) -> int:
        return 3


class Trike(Cart):
    def roll(self) -> int:
        super().nowhere()  #! member.absent
        super().load  #! member.absent
        return super().roll()

#. `super()` needs an object or a class to start from.
class Cart:
    @staticmethod
    def tip() -> None:
        super().roll()  #! call.missing

    def roll(self) -> None: ...


class Trike(Cart):
    def roll(self) -> None:
        super().roll()

#. A declaration of a base holds for what methods of a subclass assign.
class Base:
    name: str


class Sub(Base):
    def __init__(self) -> None:
        self.name = 3  #! value.assign

    def rename(self) -> None:
        self.name = "Tern"

#. A class variable that is declared is there on the class, whether or not it has a value.
class Vessel:
    name: str


Vessel.name
Vessel().name
Vessel.nmae  #! member.absent
