#= Expressions

#. Operands of an arithmetic operator go together.
def use(n: int, s: str, xs: list[int]) -> None:
    n + 1.5
    s + "x"
    xs + [1]
    n + s  #! operator.unsupported
    s - "x"  #! operator.unsupported
    xs * 2
    xs * 2.5  #! operator.unsupported

#. The result of an operator is what its method gives.
def use(n: int, x: float) -> None:
    a: int = n + 1
    b: float = n / 2
    c: int = n / 2  #! value.assign
    d: int = n // 2
    e: float = n + x
    f: int = n + x  #! value.assign

#. Where the left operand does not know, the right one is asked.
class Metre:
    def __radd__(self, other: int) -> "Metre": ...


a: Metre = 3 + Metre()
b: Metre = Metre() + 3  #! operator.unsupported

#. An operator on what may be None needs a test.
def use(n: int | None) -> None:
    n + 1  #! none.operand
    if n is not None:
        n + 1

#. A comparison asks for operands that are ordered.
class Vessel: ...


def use(n: int, s: str) -> None:
    n < 3.5
    s < "x"
    n < s  #! operator.unsupported
    Vessel() < Vessel()  #! operator.unsupported
    Vessel() == Vessel()

#. Each part of a chained comparison is compared.
def use(n: int, s: str) -> None:
    0 < n < 3
    0 < n < s  #! operator.unsupported

#. `in` asks what has members or can be iterated.
class Vessel: ...


class Box:
    def __contains__(self, x: int) -> bool: ...


def use(box: Box, xs: list[int]) -> None:
    3 in xs
    3 in box
    "x" in box  #! operator.unsupported
    3 in Vessel()  #! operator.unsupported
    3 in "abc"  #! operator.unsupported

#. `is` and `not` go with everything.
class Vessel: ...


Vessel() is None
not Vessel()
-Vessel()  #! operator.unsupported
~3
~3.5  #! operator.unsupported

#. `and` and `or` give one of their operands.
def use(a: int, b: str | None) -> None:
    x: str | int = b or a
    y: str = b or ""
    z: str = b or a  #! value.assign

#. What is read from brackets has items.
def use(n: int, xs: list[int], d: dict[str, int]) -> None:
    a: int = xs[0]
    b: int = d["a"]
    n[0]  #! index.unsupported
    xs["a"]  #! index.unsupported
    d[0]  #! index.unsupported

#. A slice of a list is a list.
#- falls short: bounds of slices are not looked at
def use(xs: list[int]) -> None:
    a: list[int] = xs[1:]
    b: int = xs[1:]  #! value.assign
    xs["a":]  #! index.unsupported

#. Each of several keys in brackets fits.
class Sheet:
    def __getitem__(self, at: tuple[int, str]) -> float: ...


def use(sheet: Sheet) -> None:
    a: float = sheet[1, "a"]
    sheet["a", 1]  #! index.unsupported

#. Keys of dictionaries and elements of sets can be hashed.
{1: 2, "a": 3, (1, 2): 4}
{[1]: 2}  #! value.unhashable
{1, "a"}
{[1], 2}  #! value.unhashable

#. What is unpacked in a display can be iterated, or is a mapping.
def use(xs: list[int], d: dict[str, int]) -> None:
    [*xs, 1]
    {**d, "a": 1}
    [*3]  #! value.not-iterable
    (*3, 1)  #! value.not-iterable

#. A comprehension iterates what can be iterated.
def use(xs: list[int], n: int) -> None:
    a: list[int] = [x for x in xs]
    b: set[int] = {x for x in xs}
    c: dict[int, str] = {x: str(x) for x in xs}
    [x for x in n]  #! value.not-iterable
    d: list[str] = [x for x in xs]  #! value.assign

#. A generator expression gives its elements once.
from collections.abc import Iterator


def use(xs: list[int]) -> None:
    a: Iterator[int] = (x for x in xs)
    b: list[int] = (x for x in xs)  #! value.assign

#. `await` waits for what can be awaited.
async def fetch() -> int: ...


async def use(n: int) -> None:
    a: int = await fetch()
    await n  #! value.not-awaitable
    await fetch  #! value.not-awaitable
    b: str = await fetch()  #! value.assign

#. A conditional expression is one of its branches.
def use(flag: bool) -> None:
    a: int | str = 3 if flag else "x"
    b: int = 3 if flag else "x"  #! value.assign

#. A formatted text takes anything, and its format goes with the value.
#- falls short: formats within f-strings are not looked at
def use(n: int, s: str) -> None:
    f"{n:d} {s}"
    f"{n:>10}"
    f"{s:d}"  #! value.format

#. `%` takes as many values as there are places.
"%s %d" % ("a", 3)
"%s %d" % ("a",)  #! value.format
"%d" % "a"  #! value.format

#. `format` takes the values that are named.
"{} {}".format(1, 2)
"{} {}".format(1)  #! value.format
"{name}".format(name=3)
"{name}".format(other=3)  #! value.format

#. `yield` gives what is sent.
from collections.abc import Generator


def use() -> Generator[int, str, bool]:
    a: str = yield 3
    b: int = yield 4  #! value.assign
    yield "x"  #! value.yield
    return True

#. `yield from` gives what the other generator returns.
from collections.abc import Generator


def inner() -> Generator[int, None, str]: ...


def use() -> Generator[int, None, None]:
    a: str = yield from inner()
    b: int = yield from inner()  #! value.assign
    yield from ["x"]  #! value.yield
    yield from 3  #! value.not-iterable

#. A lambda's body is looked at.
f = lambda x: x.y
g = lambda: 3 + "x"  #! operator.unsupported

#. The operands of `**` and `@` go together.
class Matrix:
    def __matmul__(self, other: "Matrix") -> "Matrix": ...


a: Matrix = Matrix() @ Matrix()
Matrix() @ 3  #! operator.unsupported
2**3
"a" ** 2  #! operator.unsupported

#. `|` joins types, and not values of them.
x: int | str = 3
int | None
3 | "x"  #! operator.unsupported
3 | 4

#. An attribute is read from what has it.
def use(s: str, xs: list[int]) -> None:
    s.upper
    s.uper  #! member.absent
    xs.append
    xs.apend  #! member.absent
    s.upper().lower().nowhere  #! member.absent
