import enum


class Flag(enum.Enum):
    BLUE = 1
    WHITE = 2


def hoist(flag: Flag):
    match flag:
        case Flag.BLUE:
            return 1
        case Flag.WHITE:
            return "two"


hoist(Flag.BLUE)  #= int | str


def kinds(value: int | str | None):
    match value:
        case int():
            value  #= int
        case None:
            value  #= None
        case other:
            other  #= str
