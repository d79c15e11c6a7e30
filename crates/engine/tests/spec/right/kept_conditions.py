#- main.py
"""A condition that a name was given tells the same where the name is asked, as long as it is about the same values."""


class Berth:
    name: str


class Vessel:
    berth: Berth | None


def make() -> Berth | None: ...


def one(vessel: Vessel, other: Berth | None) -> None:
    docked = vessel.berth is not None
    both = docked and other is not None
    neither = not docked or other is None
    if docked:
        print(vessel.berth.name)
    if both:
        print(other.name)
    if not neither:
        print(other.name)
    other = make()
    if both:
        print(other.name)  #! none.member
    if docked:
        vessel.berth = None
        print(vessel.berth.name)  #! none.member


def two(x: int | None, y: str | None) -> None:
    has = x and y
    if has:
        print(x + 1, y.upper())
    ok = isinstance(y, str)
    if ok and x:
        print(x + 1, y.upper())
    print(x + 1)  #! none.operand


def three(token: Berth | str) -> str:
    is_berth = isinstance(token, Berth)
    name = token.name if is_berth else token
    print(name.upper())
    if not is_berth:
        return token.upper()
    return token.upper()  #! member.absent
