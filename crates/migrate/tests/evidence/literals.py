"""Closed sets of strings."""


def depth(tide):  #= tide: Literal["high", "low"] fair guards calls
    if tide not in ("high", "low"):
        raise ValueError(tide)
    return 3


def moor(side="port", *, at=None):  #= side: Literal["port", "starboard"] fair; at: str | None fair
    if side == "port":
        side = "p"
    elif side == "starboard":
        side = "s"
    else:
        raise ValueError(side)
    if at is not None:
        at = at.upper()
    match at:
        case None:
            pass
    return side


# What is not among them is taken, too.
def sail(course="any"):  #= course: str fair
    if course not in ("north", "south"):
        raise ValueError(course)
    return course


# It goes on.
def call(signal):  #= signal: str fair
    if signal not in ("bell", "horn"):
        return 0
    return 1


depth("high")
moor("port", at="bow")
sail("north")
call("bell")
