from typing import List


class Tern:
    pass


def moor(berth: int) -> str:
    return str(berth)


def call(port: str = None, tide: "int" = None) -> None:
    print(port, tide)


def label(berth: int) -> str:
    if berth:
        return None
    return 3


x: int = "12"
y: str = Tern()
moor("12")
moor("twelve")
moor(None)
moor(Tern())
moor(2.5)
moor(bytes(3).decode())


def inspect(vessels: List[object]) -> None:
    print(vessels)


def all_of(terns: List[Tern]) -> None:
    inspect(terns)


def late(port: Sequence[str]) -> None:
    print(port)


z = 3  # leitmotiv: allow(value.assign) no more


def steer(tug: "Tern", terns: "dict[str, Tern]") -> "list[Tern]":
    return [tug] + list(terns.values())


steer(3, {})
