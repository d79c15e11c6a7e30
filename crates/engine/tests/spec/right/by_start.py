#- main.py
"""What is settled as a program starts, made by names of globals, and caught: nothing of it is told, and its neighbours are."""
import asyncio
import io
import shutil
import sys
import zipfile
from collections import OrderedDict, UserDict, defaultdict
from typing import Any, Callable, Literal, Sequence, Tuple, TypeVar, overload

from typing_extensions import Unpack

from fields import VERSION

if VERSION >= 2:
    from fields import new_field as field
else:
    from fields import old_field as field


class Berth:
    depth = field(1, example="deep")
    width = field("1")  #! call.argument


def remove(path):
    if sys.version_info >= (3, 99, 0, "final", 0):
        shutil.rmtree(path, otherwise=print)
    if sys.version_info >= (3, 1, 0, "final", 0):
        shutil.rmtree(path, otherwise=print)  #! call.keyword


def undocumented():
    print(zipfile.ZIP_MAX_COMMENT, zipfile.os)
    print(zipfile.ZIP_TIDE)  #! member.absent


class Drain(io.RawIOBase):
    pass


def packed():
    with zipfile.ZipFile(Drain(), mode="w") as archive:
        archive.writestr("tides", "")
    zipfile.ZipFile(3)  #! call.argument


async def settle(writer: asyncio.StreamWriter):
    writer.transport.pause_reading()


LEVELS: defaultdict[str, int] = defaultdict(lambda: 3, critical=4)


class Kept(UserDict):
    def __init__(self):
        self.data = OrderedDict()

    def drop(self):
        self.data.popitem(last=False)


def injected(function):
    function.__globals__["gangway"] = 3


def uses():
    print(gangway)
    print(ganges)  #! name.undefined


class Hooked:
    def send(self):
        raise NotImplementedError

    def close(self):
        return None

    def after(self, data):
        self.send(data)
        self.close(data)  #! call.surplus


def found(key: type, all: dict[type, type]) -> type | Literal[False]:
    return all.get(key, False)


def anything(rows: list[int | str]):
    row: Any
    for row in rows:
        print(row.element)
    for own in rows:
        print(own.element)  #! member.absent


def resolved(all: dict[str, object]):
    all["places"] = Unpack[Tuple[Any, ...]]


class Tagged:
    tags: tuple[()] = ()

    def first(self):
        try:
            return self.tags[0]
        except IndexError:
            return None

    def second(self):
        return self.tags[1]  #! index.range


class Meta(type):
    @property
    def fields(self) -> dict[str, int]:
        return {}


class Model(metaclass=Meta):
    @property
    def fields(self) -> list[str]:
        return []


def of_class(model: type[Model]):
    model.fields.items()
    model().fields.items()  #! member.absent


class Connection:
    shared = {"product": "Skerry Lines"}

    def __init__(self, client=None):
        self.client = dict(self.shared, **client or {})

    def capable(self):
        able = self.client.setdefault("able", {})
        able.update({"ack": True})


def split(data: str | tuple[Any, ...]):
    function, *rest = (list(data) + [None] * 5)[:5]
    print(function.__name__)


def installed():
    try:
        import shutil.commands.freeze
        shutil.commands.freeze.freeze()
        shutil.orders.freeze()  #! member.absent
    except ImportError:
        pass


class Packet:
    def __init__(self, text):
        self.data = b""
        self.data = text[3:]


class Routes(Packet):
    def unpack(self):
        routes = []
        while self.data:
            routes.append(Packet(self.data))
        self.data = routes

    def __len__(self):
        return sum(map(len, self.data))


Message = TypeVar("Message")


@overload
def provider(message: "Missing | None") -> int: ...  #! name.undefined


@overload
def provider(message: Sequence["Missing"]) -> str: ...  #! name.undefined


def provider(message: Any) -> Any:
    return message


#- fields.py
from typing import Any

VERSION = len("ab")


def new_field(default: int = 0, *, title: str = "") -> Any:
    return default


def old_field(default: int = 0, **extra: object) -> Any:
    return default
