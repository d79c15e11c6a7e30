#= The standard library

#. `sorted`, `min` and `max` ask for values that can be ordered.
class Pedal: ...


p = Pedal()
sorted([3, 1])
sorted([p, p])  #! operator.unsupported
max(p, p)  #! operator.unsupported
min([p])  #! operator.unsupported
sorted([p], key=lambda q: 3)

#. `sum` adds to 0.
sum([1, 2])
sum([1.5])
sum(["a", "b"])  #! operator.unsupported
sum([[1], [2]], [])

#. The `key` of `sorted` gives values that can be ordered.
class Pedal: ...


p = Pedal()
sorted(["x"], key=lambda s: len(s))
sorted(["x"], key=lambda s: p)  #! operator.unsupported

#. `len` asks for what has a length.
len([1])
len("a")
len(3)  #! class.protocol

#. `int` takes texts and numbers.
int("3")
int(3.5)
int([3])  #! call.overload
int(None)  #! call.overload

#. `range` takes whole numbers.
range(3)
range(1, 3)
range("a")  #! call.overload
range(1.5)  #! call.overload

#. `open` gives a text or bytes by its mode.
a: str = open("x").read()
b: bytes = open("x", "rb").read()
c: str = open("x", "rb").read()  #! value.assign
open([1])  #! call.overload

#. `dict.get` gives None where nothing else is given.
def use(d: dict[str, int]) -> None:
    a: int | None = d.get("a")
    b: int = d.get("a", 0)
    c: int = d.get("a")  #! value.assign

#. `str.join` takes texts.
",".join(["a", "b"])
",".join([1, 2])  #! call.argument

#. `zip`, `enumerate` and `map` give what they are made of.
def use(xs: list[int], ss: list[str]) -> None:
    for n, s in zip(xs, ss):
        a: int = n
        b: int = s  #! value.assign
    for i, s in enumerate(ss):
        c: int = i
        d: int = s  #! value.assign
    e: list[str] = list(map(str, xs))

#. `re.match` may give None.
import re

m = re.match("a", "b")
m.group()  #! none.member
if m:
    m.group()

#. `os.path` takes paths.
import os

os.path.exists("x")
os.path.join("a", "b")
os.path.exists(3.5)  #! call.argument
os.path.join("a", 3)  #! call.overload

#. `subprocess.run` gives texts where it is asked to.
import subprocess

a: str = subprocess.run(["x"], text=True, capture_output=True).stdout
subprocess.run(["x"]).returncode
subprocess.run(["x"]).nowhere  #! member.absent

#. `json.dumps` gives a text, `json.loads` anything.
import json

a: str = json.dumps({"a": 1})
json.loads("{}")["a"].b
b: bytes = json.dumps({})  #! value.assign

#. `datetime` and `timedelta` go together as they do.
from datetime import date, datetime, timedelta

a: timedelta = datetime.now() - datetime.now()
b: datetime = datetime.now() + timedelta(days=1)
datetime.now() + datetime.now()  #! operator.unsupported
date.today() + 3  #! operator.unsupported

#. `functools.lru_cache` keeps what the function takes, and adds what a cache has.
from functools import lru_cache


@lru_cache(maxsize=3)
def size(n: int) -> int: ...


a: int = size(3)
b: int = size.cache_info().hits
size("x")  #! call.argument
size.clear()  #! member.absent
size.cache_clear()

#. `collections.Counter` counts what it is given.
from collections import Counter


def use(s: str) -> None:
    counts = Counter([s])
    a: int = counts[s]
    counts[3]  #! index.unsupported
    counts.most_common(3)

#. `collections.defaultdict` makes what is not there.
from collections import defaultdict

rows: defaultdict[str, list[int]] = defaultdict(list)
rows["a"].append(3)
rows["a"].append("x")  #! call.argument
rows[3]  #! index.unsupported

#. `contextlib.contextmanager` makes a manager of a generator.
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def gate(n: int) -> Iterator[str]:
    yield "x"


with gate(3) as s:
    a: str = s
    b: int = s  #! value.assign
gate("x")  #! call.argument

#. `ExitStack` and `nullcontext` give what is entered.
from contextlib import ExitStack, nullcontext


def use(x: float) -> None:
    with nullcontext(x) as y:
        a: float = y
        b: str = y  #! value.assign
    with ExitStack() as stack:
        c: bytes = stack.enter_context(open("x", "rb")).read()
        d: str = stack.enter_context(open("x", "rb")).read()  #! value.assign

#. `io.BytesIO` takes bytes, `io.StringIO` text.
from io import BytesIO, StringIO

BytesIO(b"x").write(b"y")
BytesIO().write("text")  #! class.protocol
StringIO().write("text")
StringIO().write(b"x")  #! call.argument

#. `itertools.chain` goes over iterables.
import itertools
from itertools import chain

list(chain([1], [2]))
chain(3)  #! class.protocol
itertools.chain(3)  #! class.protocol

#. `asyncio.gather` gives what its coroutines give.
import asyncio


async def one() -> int: ...
async def two() -> str: ...


async def use() -> None:
    a, b = await asyncio.gather(one(), two())
    c: int = a
    d: int = b  #! value.assign

#. `asyncio.run` runs a coroutine.
import asyncio


async def fetch() -> int: ...


a: int = asyncio.run(fetch())
asyncio.run(fetch)  #! call.argument
b: str = asyncio.run(fetch())  #! value.assign

#. `pathlib` puts paths together by `/`.
from pathlib import Path

a: Path = Path("a") / "b"
Path("a") / 3  #! operator.unsupported
b: str = Path("a").read_text()
c: bytes = Path("a").read_text()  #! value.assign

#. `pow` of a float is a float.
def use(x: float) -> None:
    a: float = pow(x, 2)
    b: str = pow(x, 2)  #! value.assign

#. `importlib.import_module` gives a module.
import importlib
from types import ModuleType

a: ModuleType = importlib.import_module("json")
b: int = importlib.import_module("json")  #! value.assign

#. `isinstance` takes classes, unions of them and tuples.
def use(x: object) -> None:
    isinstance(x, (int, str))
    isinstance(x, int | str)
    isinstance(x, "int")  #! value.not-class
    isinstance(x, 3)  #! value.not-class
    isinstance(x, list[int])  #! value.not-class

#. `threading.Thread` takes what it is to run.
import threading


def run(n: int) -> None: ...


threading.Thread(target=run, args=(3,)).start()
threading.Thread(target=3)  #! call.argument

#. `typing.NamedTuple._asdict` and `_replace` are there.
from typing import NamedTuple


class Leg(NamedTuple):
    port: str


Leg("x")._asdict()
a: Leg = Leg("x")._replace(port="y")
Leg("x")._nowhere  #! member.absent
