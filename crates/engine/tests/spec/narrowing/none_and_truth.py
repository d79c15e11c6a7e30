def name_of(value: str | None):
    if value is None:
        value  #= None
        return "nobody"
    return value  #= str


def either(value: str | None, other: int | None):
    if value and other is not None:
        value  #= str
        other  #= int
    if not value:
        value  #= str | None
    text = value or "default"
    text  #= str
    chosen = value.upper() if value else ""
    chosen  #= str
    value.upper()  #! none.member "`value` may be None here"


def loop(values: list[int | None]):
    for value in values:
        if value is None:
            continue
        value  #= int
    kept = [value for value in values if value is not None]
    kept  #= list[int]
    return kept


class Berth:
    occupant: str | None = None

    def name(self):
        if self.occupant is not None:
            return self.occupant  #= str
        return ""


def places(berth: Berth):
    if berth.occupant:
        berth.occupant.upper()
        berth = Berth()
        berth.occupant.upper()  #! none.member
