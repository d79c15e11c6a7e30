#- attr/__init__.py
from typing import Any, Callable, TypeVar, dataclass_transform

T = TypeVar("T")


def ib(default: Any = ..., type: Any = ..., init: bool = True) -> Any: ...
def field(default: Any = ...) -> Any: ...


@dataclass_transform(field_specifiers=(ib, field))
def s(cls: type[T]) -> type[T]: ...
#- registry.py
from contextlib import contextmanager
from typing import Generator, Generic, TypeVar

T = TypeVar("T")


class Slot(Generic[T]):
    def __init__(self, default: T) -> None: ...

    @contextmanager
    def held(self, value: T) -> Generator[None, None, None]:
        yield

    def put(self, value: T) -> None: ...


current = Slot(None)
declared: Slot[int] = Slot(3)
#- main.py
"""What is made by calls: classes as callables, fields without annotations, attributes under computed names."""
from typing import Any, Awaitable, Callable, Generic, Mapping, Optional, ParamSpec, Protocol, TypeVar

import attr
from registry import current, declared

P = ParamSpec("P")
R = TypeVar("R")
K = TypeVar("K")
V = TypeVar("V")


@attr.s
class Kite:
    tail = attr.ib()
    span = attr.ib(type=int, default=3)
    _reel = attr.ib(default=0)
    flown = attr.ib(default=0, init=False)
    colour = "red"


Kite(1)
Kite(tail=1, span=2, reel=4)
Kite(1, span="wide")  #! call.argument
Kite(1, flown=3)  #! call.keyword
Kite(1, colour="blue")  #! call.keyword
Kite()  #! call.missing

App = Callable[[int], Awaitable[None]]


class Factory(Protocol[P]):
    def __call__(self, app: App, /, *args: P.args, **kwargs: P.kwargs) -> App: ...


class Wrap:
    def __init__(self, make: Factory[P], *args: P.args, **kwargs: P.kwargs) -> None: ...


class Layer:
    def __init__(self, app: App, depth: int = 0) -> None: ...
    async def __call__(self, n: int) -> None: ...


def layer(app: App, depth: int = 0) -> App:
    return app


Wrap(layer, depth=3)
Wrap(Layer, depth=3)
Wrap(Layer, width=3)  #! call.keyword


class Maker(Protocol):
    def __call__(self, name: str) -> Kite: ...


class Box:
    def __init__(self, name: str) -> None: ...


def make(maker: Maker) -> None: ...


make(Box)  #! class.protocol


class Plan(Generic[R]): ...


def plan(target: Callable[..., R], *a: Any) -> Plan[R]: ...


class Odd:
    def __new__(cls, n: int) -> int:
        return n


plan(reversed, [1])
plan(Odd, 1)  #= Plan[int]
plan(Kite, 1)  #= Plan[Kite]
plans: dict[type, Plan[Any]] = {Odd: plan(Odd, 1)}


class Codes:
    def __init__(self) -> None:
        for name in dir(self):
            if not name.startswith("_"):
                setattr(self, name, f"<{getattr(self, name)}>")


class Fore(Codes):
    RED = 31
    BLUE: int = 34


def need(s: str) -> None: ...


need(Fore().RED)
need(Fore().BLUE)  #! call.argument


class Env:
    def __init__(self, loader: Optional[int] = None) -> None:
        self.loader = loader
        self.size = 3

    def extend(self, **kw: Any) -> None:
        for k, v in kw.items():
            setattr(self, k, v)

    def show(self) -> None:
        self.loader  #= int | None
        self.size  #= unknown


class Watched(dict[K, V]):
    def __init__(self, first: Mapping[K, V], cb: "Callable[[Watched[K, V]], Any] | None" = None) -> None: ...


def watch(value: dict[str, str]) -> None:
    a: dict[str, str | None] = Watched(value)
    b: dict[str, str | None] = Watched(value, lambda _: None)
    c: dict[str, int] = Watched(value, lambda _: None)  #! value.assign


def note(x): ...


def go() -> None:
    current.put(note)
    with current.held(note):
        pass
    with declared.held(note):  #! call.argument
        pass


class Pump:
    def wait(self, n: int) -> None: ...


class Winch:
    def wait(self, n: int) -> None: ...


def either(flag: bool) -> None:
    engine = Pump() if flag else Winch()
    engine.wait()  #! call.missing


class Scored(type):
    def __new__(mcs, name, bases, namespace):
        if "score" in namespace:
            old = namespace["score"]
            namespace["score"] = staticmethod(lambda text: float(old(text) or 0))
        return type.__new__(mcs, name, bases, namespace)


class Reader(metaclass=Scored):
    def score(text):
        if text:
            return 0.5

    def length(self):
        return 3


class Sub(Reader):
    def score(text):
        return Reader.score(text) - 0.1


Sub().length()  #= int


MARKED: list[type] = []
C = TypeVar("C")


def mark(cls: type[C]) -> type[C]:
    return cls


def keep(cls):
    MARKED.append(cls)
    return cls


def change(cls):
    cls.limits = {"b": 2}
    return cls


@mark
class Cell(Generic[V]):
    limits = {"a": 1}

    def __init__(self, v: V) -> None:
        self.v = v


@keep
class Kept(Cell[int]):
    sizes = {"a": 1}


@change
class Changed(Cell[int]):
    sizes = {"a": 1}


Cell(1)  #= Cell[int]
Cell.limits  #= dict[str, int]
Kept.sizes  #= dict[str, int]
Changed.sizes  #= unknown
