#= Constructors

#. A class is called with what its `__init__` takes.
class Vessel:
    def __init__(self, name: str, berths: int = 3) -> None: ...


Vessel("Selkie")
Vessel("Selkie", 4)
Vessel()  #! call.missing
Vessel(3)  #! call.argument
Vessel("Selkie", 4, 5)  #! call.surplus

#. A class without `__init__` and `__new__` takes nothing.
class Buoy: ...


Buoy()
Buoy(3)  #! call.surplus
Buoy(name="x")  #! call.keyword

#. A class is called with what its `__new__` takes.
class Vessel:
    def __new__(cls, name: str) -> "Vessel": ...


Vessel("Selkie")
Vessel(3)  #! call.argument

#. Where `__new__` gives something else, `__init__` is not called, and that is what the call gives.
class Odd:
    def __new__(cls, name: str) -> int: ...
    def __init__(self, never: bytes) -> None: ...


a: int = Odd("x")
Odd(b"x")  #! call.argument
b: str = Odd("x")  #! value.assign

#. `__init__` gives None.
class Right:
    def __init__(self) -> None: ...


class Wrong:
    def __init__(self) -> int: ...  #! class.special-result

#. A subclass is called with its base's constructor unless it has its own.
class Vessel:
    def __init__(self, name: str) -> None: ...


class Ferry(Vessel): ...


class Tug(Vessel):
    def __init__(self) -> None: ...


Ferry("Selkie")
Ferry()  #! call.missing
Tug()

#. `cls(…)` in a class method is called as the class is.
from typing import Self


class Vessel:
    def __init__(self, berths: int) -> None: ...

    @classmethod
    def right(cls) -> Self:
        return cls(3)

    @classmethod
    def wrong(cls, text: str) -> Self:
        return cls(text)  #! call.argument

    def again(self) -> "Vessel":
        return type(self)("three")  #! call.argument

#. `type[C]` is called as the class is.
class Vessel:
    def __init__(self, name: str) -> None: ...


def launch(kind: type[Vessel]) -> None:
    a: Vessel = kind("Selkie")
    kind(3)  #! call.argument

#. `type[T]` makes what the variable stands for.
class Vessel:
    def __init__(self, name: str) -> None: ...


def launch[T: Vessel](kind: type[T]) -> T:
    kind(3)  #! call.argument
    return kind("Selkie")

#. A metaclass whose `__call__` gives something else says what a call gives.
from typing import Any


class Meta(type):
    def __call__(cls, *args: Any) -> int: ...


class Odd(metaclass=Meta): ...


a: int = Odd(1, 2)
b: str = Odd()  #! value.assign

#. A metaclass whose `__call__` never returns ends what calls its classes.
from typing import Any, NoReturn


class Meta(type):
    def __call__(cls, *args: Any, **kwargs: Any) -> NoReturn:
        raise TypeError


class Never(metaclass=Meta): ...
class Plain: ...


def right() -> int:
    Never()


def wrong() -> int:  #! flow.missing-return
    Plain()

#. A generic class's constructor tells what its variables are.
class Box[T]:
    def __init__(self, inside: T) -> None: ...
    def get(self) -> T: ...


a: int = Box(3).get()
b: str = Box(3).get()  #! value.assign

#. An annotated `self` in `__init__` tells what the variables are.
from typing import overload


class Box[T]:
    @overload
    def __init__(self: "Box[int]") -> None: ...
    @overload
    def __init__(self: "Box[str]", text: str) -> None: ...
    def __init__(self, text: str = "") -> None: ...
    def get(self) -> T: ...


a: int = Box().get()
b: str = Box("x").get()
c: str = Box().get()  #! value.assign

#. A class keyword goes to `__init_subclass__` of a base.
class Plugin:
    def __init_subclass__(cls, key: str) -> None: ...


class Right(Plugin, key="x"): ...
class Wrong(Plugin, key=3): ...  #! call.argument
class Lacks(Plugin): ...  #! call.missing
class Plain: ...
class Other(Plain, key="x"): ...  #! call.keyword

#. A class whose constructor takes anything is called with anything.
class Loose:
    def __init__(self, *args, **kwargs): ...


class Tight:
    def __init__(self, name): ...


Loose(1, 2, x=3)
Tight()  #! call.missing
Tight("x")

#. `super().__init__` is called with what the base's takes.
class Vessel:
    def __init__(self, name: str) -> None: ...


class Ferry(Vessel):
    def __init__(self) -> None:
        super().__init__("Selkie")


class Tug(Vessel):
    def __init__(self) -> None:
        super().__init__(3)  #! call.argument
