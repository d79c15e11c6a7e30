#= Generics

#. A type variable stands for one type throughout a call.
def pair[T](one: T, other: T) -> tuple[T, T]:
    return one, other


def use(n: int, s: str) -> None:
    a: tuple[int, int] = pair(n, n)
    b: tuple[int, int] = pair(n, s)  #! value.assign

#. A type variable with a bound takes what is within it.
class Vessel:
    berths: int = 3


class Ferry(Vessel): ...


def largest[T: Vessel](fleet: list[T]) -> T:
    return max(fleet, key=lambda vessel: vessel.berths)


largest([Ferry(), Ferry()]).berths
largest([3])  #! call.argument

#. Within its function, a bound variable has what its bound has, and no more.
class Vessel:
    berths: int = 3


def free[T: Vessel](vessel: T) -> T:
    vessel.berths
    vessel.captain  #! member.absent
    return vessel

#. A constrained variable stands for just one of its constraints.
from typing import TypeVar

Mark = TypeVar("Mark", str, bytes)


def joined(one: Mark, other: Mark) -> Mark:
    return one + other


joined("a", "b")
joined(b"a", b"b")
joined("a", b"b")  #! call.argument
joined(3, 4)  #! call.argument

#. A type variable needs at least two constraints, and has no bound beside them.
from typing import TypeVar

One = TypeVar("One", str)  #! generic.definition
Both = TypeVar("Both", str, bytes, bound=object)  #! generic.definition
Two = TypeVar("Two", str, bytes)
Free = TypeVar("Free", bound=int)

#. A type variable is assigned to a name that is its own.
from typing import ParamSpec, TypeVar, TypeVarTuple

T = TypeVar("T")
U = TypeVar("V")  #! generic.definition
P = ParamSpec("Q")  #! generic.definition
Ts = TypeVarTuple("Us")  #! generic.definition

#. What a type variable is limited to cannot depend on another variable.
from typing import TypeVar

T = TypeVar("T")
Rows = TypeVar("Rows", bound=list[T])  #! generic.definition
Plain = TypeVar("Plain", bound=list[int])

#. A variable is covariant or contravariant, not both.
from typing import TypeVar

Odd = TypeVar("Odd", covariant=True, contravariant=True)  #! generic.definition
In = TypeVar("In", contravariant=True)
Out = TypeVar("Out", covariant=True)

#. `Generic` takes type variables, each once.
from typing import Generic, TypeVar

T = TypeVar("T")
U = TypeVar("U")


class Good(Generic[T, U]): ...
class Twice(Generic[T, T]): ...  #! generic.definition
class Other(Generic[int]): ...  #! generic.definition

#. Where `Generic` lists variables, it lists all that the bases use.
from typing import Generic, TypeVar

T = TypeVar("T")
U = TypeVar("U")


class Right(dict[T, U], Generic[U, T]): ...
class Wrong(dict[T, U], Generic[T]): ...  #! generic.definition

#. A class that lists its variables in brackets has no `Generic` or `Protocol[…]` besides.
from typing import Generic, Protocol


class Plain[T]: ...
class Twice[T](Generic[T]): ...  #! generic.definition
class Asked[T](Protocol): ...
class Again[T](Protocol[T]): ...  #! generic.definition

#. Variables of the new syntax and of the old do not mix in one definition.
from typing import TypeVar

Old = TypeVar("Old")


class Mixed[T](list[Old]): ...  #! generic.definition
def mixed[T](one: T, other: Old) -> None: ...  #! generic.definition
class Plain[T](list[T]): ...

#. A method may use the old variables of its class beside new ones of its own.
from typing import Generic, TypeVar

Old = TypeVar("Old")


class Crate(Generic[Old]):
    def swap[T](self, one: T, other: Old) -> T:
        return one


def apart[T](one: T, other: Old) -> T:  #! generic.definition
    return one

#. A bound is a type.
class Wrong[T: 3]: ...  #! annotation.invalid
class Right[T: int]: ...
def wrong[T: [int]](x: T) -> None: ...  #! annotation.invalid
def right[T: (int, str)](x: T) -> None: ...

#. A single constraint in brackets leaves nothing to choose.
class Wrong[T: (int,)]: ...  #! generic.definition
class Right[T: (int, str)]: ...

#. A type parameter is not seen outside of what it belongs to.
def shown[T](x: T) -> T:
    return x


def hidden(x: list[T]) -> None: ...  #! name.undefined

#. A type parameter hides no other of the same class around it.
class Outer[T]:
    class Inner[U]:
        held: U

    def keep(self, x: T) -> T:
        return x


T  #! name.undefined

#. A generic class takes as many arguments as it has parameters.
class Leg[Start, End]:
    start: Start
    end: End


def right(leg: Leg[int, str]) -> None: ...
def few(leg: Leg[int]) -> None: ...  #! generic.arguments
def many(leg: Leg[int, str, bytes]) -> None: ...  #! generic.arguments

#. A generic class's arguments are within the bounds of its parameters.
class Vessel: ...


class Fleet[T: Vessel]:
    flag: T


def right(fleet: Fleet[Vessel]) -> None: ...
def wrong(fleet: Fleet[str]) -> None: ...  #! generic.bound
a = Fleet[int]()  #! generic.bound

#. A parameter with a default may be left out, and stands for it then.
class Row[T = int]:
    def first(self) -> T:
        raise LookupError


def use(row: Row, other: Row[str]) -> None:
    a: int = row.first()
    b: str = row.first()  #! value.assign
    c: str = other.first()

#- python 3.13

#. A parameter without a default does not follow one that has one.
class Right[T, U = int]: ...
class Wrong[T = int, U]: ...  #! generic.definition

#- python 3.13

#. A default is within the bound, or one of the constraints.
class Right[T: float = int]: ...
class Wrong[T: str = int]: ...  #! generic.definition
class Chosen[T: (int, str) = int]: ...
class Other[T: (int, str) = bytes]: ...  #! generic.definition

#- python 3.13

#. A default may speak of parameters before it.
class Span[T = int, U = T]:
    def end(self) -> U:
        raise LookupError


def use(span: Span[str]) -> None:
    a: str = span.end()
    b: int = span.end()  #! value.assign

#- python 3.13

#. What is left of a class's variables unsaid is unknown, and a demand may ask for it.
def right(rows: list[int]) -> None: ...
def wrong(rows: list) -> None: ...  #! generic.bare

#- demand filled-generics

#. A class is invariant in a variable unless something else is said or found.
class Vessel: ...
class Ferry(Vessel): ...


def fill(fleet: list[Vessel]) -> None:
    fleet.append(Vessel())


def use(ferries: list[Ferry]) -> None:
    fill(ferries)  #! generic.invariant
    fill([Ferry()])

#. Read-only containers are covariant.
from collections.abc import Iterable, Mapping, Sequence


class Vessel: ...
class Ferry(Vessel): ...


def read(fleet: Sequence[Vessel], named: Mapping[str, Vessel], others: Iterable[Vessel]) -> None: ...


def use(a: list[Ferry], b: dict[str, Ferry], c: set[Ferry]) -> None:
    read(a, b, c)
    read(a, {3: Ferry()}, c)  #! call.argument

#. The key of a mapping is invariant.
from collections.abc import Mapping


def read(fares: Mapping[object, int]) -> None: ...


def use(fares: dict[str, int]) -> None:
    read(fares)  #! generic.invariant
    read({"adult": 3})

#. What a class only gives makes it covariant, where its variance is inferred.
class Vessel: ...
class Ferry(Vessel): ...


class Source[T]:
    def give(self) -> T:
        raise LookupError


class Sink[T]:
    def take(self, x: T) -> None: ...


def use(ferries: Source[Ferry], vessels: Sink[Vessel], sink: Sink[Ferry]) -> None:
    a: Source[Vessel] = ferries
    b: Source[Ferry] = a
    c: Sink[Ferry] = vessels
    d: Sink[Vessel] = sink  #! value.assign


def wrong(vessels: Source[Vessel]) -> Source[Ferry]:
    return vessels  #! value.return

#. An attribute that may be assigned makes its class invariant.
class Vessel: ...
class Ferry(Vessel): ...


class Box[T]:
    def __init__(self, inside: T) -> None:
        self.inside = inside


def use(box: Box[Ferry]) -> Box[Vessel]:
    return box  #! generic.invariant

#. A covariant variable is not taken by a method, a contravariant one is not given.
from typing import Generic, TypeVar

T_co = TypeVar("T_co", covariant=True)
T_contra = TypeVar("T_contra", contravariant=True)


class Source(Generic[T_co]):
    def __init__(self, first: T_co) -> None: ...
    def give(self) -> T_co: ...
    def take(self, x: T_co) -> None: ...  #! generic.variance


class Sink(Generic[T_contra]):
    def take(self, x: T_contra) -> None: ...
    def give(self) -> T_contra: ...  #! generic.variance

#. A covariant variable fills no parameter of a base that is invariant.
from collections.abc import Sequence
from typing import Generic, TypeVar

T = TypeVar("T")
T_co = TypeVar("T_co", covariant=True)


class Sink(Generic[T]):
    def put(self, x: T) -> None: ...


class Wrong(Sink[T_co]): ...  #! generic.variance
class Other(list[T_co]): ...  #! generic.variance
class Right(Sequence[T_co]):
    def __len__(self) -> int: ...

#. A variable means something only where a function or class around is generic in it.
from typing import TypeVar

T = TypeVar("T")
held: T  #! generic.scope


def right(x: T) -> T:
    inner: list[T] = [x]
    return inner[0]


def wrong() -> None:
    lost: list[T] = []  #! generic.scope

#. A function that gives what none of its parameters says gives nothing that could be told.
from typing import TypeVar

T = TypeVar("T")


def right(x: list[T]) -> T: ...
def wrong(x: int) -> T: ...  #! generic.result

#. A nested class is not generic in a variable of the class around.
from typing import Generic, TypeVar

T = TypeVar("T")


class Quay(Generic[T]):
    class Crane(Generic[T]): ...  #! generic.scope

    def first(self, x: T) -> T:
        return x

#. Inside its function, a variable is filled by nothing but what came in as one.
def first[T](x: T) -> T:
    return "text"  #! value.return


def other[T](x: T, rows: list[T]) -> T:
    return rows[0] if rows else x

#. Operators on a variable are those of its bound; without a bound there are hardly any.
def add[T](x: T) -> None:
    x + 1  #! operator.unsupported
    x == 1


def more[T: int](x: T) -> int:
    return x + 1

#. A generic function is called with arguments that agree.
def put[T](row: list[T], x: T) -> None:
    row.append(x)


def use(row: list[int]) -> None:
    put(row, 3)
    put(row, "three")  #! generic.invariant

#. Variables are solved through containers, unions and callables.
from collections.abc import Callable


def first[T](rows: list[T] | None) -> T: ...
def apply[A, B](f: Callable[[A], B], x: A) -> B:
    return f(x)


def use(rows: list[int] | None, text: Callable[[int], str]) -> None:
    a: int = first(rows)
    b: str = first(rows)  #! value.assign
    c: str = apply(text, 3)
    d: int = apply(text, 3)  #! value.assign

#. The type that is expected of a call tells what its variables are.
def empty[T]() -> list[T]:
    return []


a: list[int] = empty()
b: list[int] = [*empty(), 3]
c: dict[str, int] = empty()  #! value.assign

#. A method of a generic class takes what its arguments say.
class Crate[T]:
    def put(self, x: T) -> None: ...
    def first(self) -> T: ...


def use(crate: Crate[int]) -> None:
    crate.put(3)
    crate.put("three")  #! call.argument
    a: str = crate.first()  #! value.assign

#. What a subclass gives a base's variables holds for the members of the base.
class Crate[T]:
    def put(self, x: T) -> None: ...


class Ints(Crate[int]): ...
class Named[U](Crate[dict[str, U]]): ...


def use(ints: Ints, named: Named[int]) -> None:
    ints.put(3)
    ints.put("x")  #! call.argument
    named.put({"a": 1})
    named.put({"a": "b"})  #! call.argument

#. A constructor's arguments say what the class's variables are.
class Box[T]:
    def __init__(self, inside: T) -> None: ...
    def put(self, x: T) -> None: ...
    def get(self) -> T: ...


def use(n: int, s: str) -> None:
    box = Box(n)
    box.put(s)  #! call.argument
    box.put(4)
    other: Box[str] = Box(n)  #! value.assign

#. A class is made with its arguments written out.
class Box[T]:
    def __init__(self, inside: T) -> None: ...


Box[int](3)
Box[int]("three")  #! call.argument

#. A `ParamSpec` passes the parameters of one callable on to another.
from collections.abc import Callable


def logged[**P, R](f: Callable[P, R]) -> Callable[P, R]:
    def inner(*args: P.args, **kwargs: P.kwargs) -> R:
        return f(*args, **kwargs)

    return inner


@logged
def sail(name: str, knots: int = 3) -> bool:
    return True


sail("Selkie")
sail("Selkie", knots=4)
sail(3)  #! call.argument
sail("Selkie", depth=3)  #! call.keyword
a: str = sail("Selkie")  #! value.assign

#. `P.args` and `P.kwargs` stand together, each where it belongs.
from collections.abc import Callable


def right[**P](f: Callable[P, int], *args: P.args, **kwargs: P.kwargs) -> None: ...
def alone[**P](f: Callable[P, int], *args: P.args) -> None: ...  #! annotation.place
def turned[**P](f: Callable[P, int], *args: P.kwargs, **kwargs: P.args) -> None: ...  #! annotation.place  #! annotation.place
def plain[**P](f: Callable[P, int], args: P.args) -> None: ...  #! annotation.place

#. A callable with `P` is called with exactly `*args` and `**kwargs` of it.
from collections.abc import Callable


def wrap[**P, R](f: Callable[P, R]) -> Callable[P, R]:
    def inner(*args: P.args, **kwargs: P.kwargs) -> R:
        f()  #! call.missing
        f(*args)  #! call.missing
        f(1, *args, **kwargs)  #! call.surplus
        return f(*args, **kwargs)

    return inner

#. `Concatenate` puts parameters before those of a `ParamSpec`, or takes them away.
from collections.abc import Callable
from typing import Concatenate


class Harbour: ...


def at[**P, R](f: Callable[Concatenate[Harbour, P], R]) -> Callable[P, R]:
    def inner(*args: P.args, **kwargs: P.kwargs) -> R:
        return f(Harbour(), *args, **kwargs)

    return inner


@at
def moor(harbour: Harbour, berth: int) -> str:
    return ""


moor(3)
moor("three")  #! call.argument
moor(Harbour(), 3)  #! call.surplus

#. `Concatenate` ends in a `ParamSpec` or in dots, and stands where parameters do.
from collections.abc import Callable
from typing import Concatenate, ParamSpec

P = ParamSpec("P")


def right(f: Callable[Concatenate[int, P], str], g: Callable[Concatenate[int, ...], str]) -> None: ...
def wrong(f: Callable[Concatenate[int, str], str]) -> None: ...  #! annotation.form
def apart(x: Concatenate[int, P]) -> None: ...  #! annotation.place

#. A `ParamSpec` is no type of its own.
from collections.abc import Callable
from typing import ParamSpec

P = ParamSpec("P")


def wrong(x: P) -> None: ...  #! annotation.place
def listed(x: list[P]) -> None: ...  #! annotation.place
def right(x: Callable[P, int]) -> None: ...

#. A class generic in parameters takes a list of types for them.
class Task[**P]:
    def run(self, *args: P.args, **kwargs: P.kwargs) -> None: ...


def use(task: Task[int, str], listed: Task[[int, str]], open_: Task[...]) -> None:
    task.run(3, "x")
    task.run("x", 3)  #! call.argument
    listed.run(3)  #! call.missing
    open_.run()

#. A `ParamSpec` may have a default.
from typing import Generic, ParamSpec

P = ParamSpec("P", default=[int, str])


class Task(Generic[P]):
    def run(self, *args: P.args, **kwargs: P.kwargs) -> None: ...


def use(task: Task) -> None:
    task.run(1, "one")
    task.run("one", 1)  #! call.argument

#- python 3.13

#. A `TypeVarTuple` stands for any number of types, and is unpacked where it is used.
class Row[*Ts]:
    def items(self) -> tuple[*Ts]: ...


def use(row: Row[int, str]) -> None:
    a: tuple[int, str] = row.items()
    b: tuple[int, int] = row.items()  #! value.assign


def wrong[*Ts](x: tuple[Ts]) -> None: ...  #! annotation.place

#. `*args: *Ts` takes the types one by one.
def gather[*Ts](*args: *Ts) -> tuple[*Ts]:
    return args


a: tuple[int, str] = gather(3, "x")
b: tuple[str, int] = gather(3, "x")  #! value.assign

#. At most one `TypeVarTuple` stands in a list of parameters or in a tuple.
from typing import Generic, TypeVarTuple, Unpack

Ts = TypeVarTuple("Ts")
Us = TypeVarTuple("Us")


class Two(Generic[Unpack[Ts], Unpack[Us]]): ...  #! generic.definition
def both(x: tuple[Unpack[Ts], Unpack[Us]]) -> None: ...  #! annotation.form
class One(Generic[Unpack[Ts]]): ...
class Bare(Generic[Ts]): ...  #! annotation.place

#. A callable may take what a `TypeVarTuple` stands for.
from collections.abc import Callable


def later[*Ts](f: Callable[[*Ts], None], *args: *Ts) -> None: ...
def moor(berth: int, line: str) -> None: ...


later(moor, 3, "bow")
later(moor, "bow", 3)  #! call.argument
later(moor, 3)  #! call.argument

#. Types around a `TypeVarTuple` are taken first from both ends.
def ends[T, *Ts, U](x: tuple[T, *Ts, U]) -> tuple[U, T]: ...


a: tuple[bytes, int] = ends((3, "x", 2.0, b"y"))
b: tuple[int, bytes] = ends((3, "x", 2.0, b"y"))  #! value.assign

#. A protocol is generic as a class is.
from typing import Protocol


class Source[T](Protocol):
    def give(self) -> T: ...


class Tap:
    def give(self) -> int:
        return 3


def drink[T](source: Source[T]) -> T:
    return source.give()


a: int = drink(Tap())
b: str = drink(Tap())  #! value.assign

#. `T | None` takes what may be None, and gives it back without.
def sure[T](x: T | None) -> T:
    assert x is not None
    return x


def use(n: int | None) -> None:
    a: int = sure(n)
    b: str = sure(n)  #! value.assign
