import sys


def pick(flag: bool):
    if flag:
        value = 1
    else:
        raise ValueError
    value  #= Literal[1]


def leave(value: int | None):
    if value is None:
        sys.exit(1)
    value  #= int


def fail(message):
    raise RuntimeError(message)


def own_exit(value: str | None):
    if value is None:
        fail("none")
    value  #= str


def guarded(text: str):
    try:
        number = int(text)
    except ValueError:
        number = None
    number  #= int | None
    try:
        number = 3
    finally:
        text  #= str
    number  #= Literal[3]


def versions():
    if sys.version_info >= (3, 8):
        name = "new"
    else:
        name = 1 + "old"
    name  #= Literal["new"]
