#= Overloads

#. The first signature that takes the arguments says what a call gives.
from typing import overload


@overload
def read(x: int) -> int: ...
@overload
def read(x: str) -> str: ...
def read(x): ...


a: int = read(3)
b: str = read("x")
c: int = read("x")  #! value.assign
read(b"x")  #! call.overload

#. An overloaded function has at least two signatures.
from typing import overload


@overload
def lone(x: int) -> int: ...  #! class.overloads
def lone(x): ...


@overload
def two(x: int) -> int: ...
@overload
def two(x: str) -> str: ...
def two(x): ...

#. Behind the signatures stands a definition.
from typing import overload


@overload
def lacks(x: int) -> int: ...  #! class.overloads
@overload
def lacks(x: str) -> str: ...


@overload
def has(x: int) -> int: ...
@overload
def has(x: str) -> str: ...
def has(x): ...

#. In protocols and of abstract methods, signatures are all there is.
from abc import ABC, abstractmethod
from typing import Protocol, overload


class Packs(Protocol):
    @overload
    def pack(self, x: int) -> int: ...
    @overload
    def pack(self, x: str) -> str: ...


class Base(ABC):
    @overload
    @abstractmethod
    def pack(self, x: int) -> int: ...
    @overload
    @abstractmethod
    def pack(self, x: str) -> str: ...

    @overload
    def other(self, x: int) -> int: ...  #! class.overloads
    @overload
    def other(self, x: str) -> str: ...

#. The definition takes what each signature takes.
from typing import overload


@overload
def pack(x: int) -> int: ...
@overload
def pack(x: str, y: int) -> str: ...  #! class.overloads
def pack(x: int | str) -> int | str: ...

#. The definition may give what each signature gives.
from typing import overload


@overload
def pack(x: int) -> int: ...
@overload
def pack(x: str) -> bytes: ...  #! class.overloads
def pack(x: int | str) -> int | str: ...

#. All signatures are static methods, or class methods, or none is.
from typing import Any, overload


class Rack:
    @overload
    @staticmethod
    def load(x: int) -> int: ...  #! class.overloads
    @overload
    def load(self, x: str) -> str: ...
    def load(self: Any, x: Any = None) -> Any: ...

    @overload
    @staticmethod
    def keep(x: int) -> int: ...
    @overload
    @staticmethod
    def keep(x: str) -> str: ...
    @staticmethod
    def keep(x: Any) -> Any: ...

#. A signature that one above takes all of is never chosen.
from typing import overload


@overload
def pack(x: object) -> int: ...
@overload
def pack(x: str) -> int: ...  #! class.overloads
def pack(x: object) -> int: ...

#. A signature that one below covers with another result is doubtful.
from typing import overload


@overload
def pack(x: int) -> str: ...  #! class.overlap
@overload
def pack(x: object) -> int: ...
def pack(x: object) -> int | str: ...

#. Each part of a union may take another signature.
from typing import overload


@overload
def read(x: int) -> int: ...
@overload
def read(x: str) -> str: ...
def read(x): ...


def use(x: int | str, y: int | bytes) -> None:
    a: int | str = read(x)
    b: int = read(x)  #! value.assign
    read(y)  #! call.overload

#. Truth values, enumerations and tuples are taken apart as well.
from enum import Enum
from typing import Literal, overload


class Side(Enum):
    PORT = 1
    STARBOARD = 2


@overload
def ring(loud: Literal[True]) -> int: ...
@overload
def ring(loud: Literal[False]) -> str: ...
def ring(loud): ...
@overload
def turn(side: Literal[Side.PORT]) -> int: ...
@overload
def turn(side: Literal[Side.STARBOARD]) -> str: ...
def turn(side): ...
@overload
def pair(t: tuple[int, int]) -> int: ...
@overload
def pair(t: tuple[int, str]) -> str: ...
def pair(t): ...


def use(b: bool, side: Side, t: tuple[int, int | str]) -> None:
    x: int | str = ring(b)
    y: int | str = turn(side)
    z: int | str = pair(t)
    w: int = ring(b)  #! value.assign

#. An argument of unknown type takes what all fitting signatures agree on.
from typing import Any, overload


@overload
def read(x: int) -> int: ...
@overload
def read(x: str) -> str: ...
@overload
def read(x: bytes, y: int) -> bytes: ...
def read(x, y=0): ...


def use(x: Any) -> None:
    read(x).nowhere
    read(x, 3).nowhere  #! member.absent

#. Signatures are told apart by the number of arguments and by names.
from typing import overload


@overload
def moor(berth: int) -> int: ...
@overload
def moor(*, line: str) -> str: ...
def moor(berth=0, line=""): ...


a: int = moor(3)
b: str = moor(line="bow")
moor(line=3)  #! call.overload
moor()  #! call.overload

#. Signatures are told apart by the type of `self`.
from typing import Any, overload


class Rack[T]:
    @overload
    def join(self: "Rack[str]") -> str: ...
    @overload
    def join(self: "Rack[bytes]") -> bytes: ...
    def join(self) -> Any: ...


def use(a: Rack[str], b: Rack[bytes], c: Rack[int]) -> None:
    x: str = a.join()
    y: bytes = b.join()
    c.join()  #! call.overload

#. An overloaded function fits a callable if one of its signatures does.
from collections.abc import Callable
from typing import overload


@overload
def read(x: int) -> int: ...
@overload
def read(x: str) -> str: ...
def read(x): ...


a: Callable[[int], int] = read
b: Callable[[str], str] = read
c: Callable[[str], int] = read  #! value.assign

#. An overloaded constructor is called by one of its signatures.
from typing import overload


class Vessel:
    @overload
    def __init__(self, name: str) -> None: ...
    @overload
    def __init__(self, berths: int) -> None: ...
    def __init__(self, *args, **kwargs) -> None: ...


Vessel("Selkie")
Vessel(3)
Vessel(b"x")  #! call.overload

#. A signature that takes any number of arguments takes a list that is unpacked.
from typing import overload


@overload
def gather(x: int) -> int: ...
@overload
def gather(*x: int) -> list[int]: ...
def gather(*x): ...


def use(xs: list[int]) -> None:
    a: list[int] = gather(*xs)
    b: int = gather(*xs)  #! value.assign
