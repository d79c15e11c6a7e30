"""What functions give."""
from __future__ import annotations


class Berth:
    def __init__(self, number):  #= number: int fair; -> None sure
        self.number = number

    def same(self):
        return self

    def wait(self):  #= -> int low bases
        raise NotImplementedError


class Pier(Berth):
    def wait(self):  #= -> int fair
        return 3


Berth(3)


def numbers():  #= -> Iterator[int] fair returns
    yield 1


async def later():  #= -> str fair returns
    return "soon"


def fail():  #= -> NoReturn fair returns
    raise ValueError("closed")


def pick(late):  #= -> int | str fair returns
    if late:
        return 1
    return "none"


def find(berths, number):  #= -> bool fair returns
    return berths.number == number


def log():  #= -> None sure returns
    print("log")


# Texts and bytes have no common name that anybody would write.
def encoded(text: str, is_plain: bool):  #= -> bytes | str fair
    if is_plain:
        return text
    return text.encode()
