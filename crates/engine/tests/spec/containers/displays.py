[1, 2]  #= list[int]
(1, "a")  #= tuple[Literal[1], Literal["a"]]
{"a": 1, "b": None}  #= dict[str, int | None]
{1, 2}  #= set[int]
[x * 2 for x in (1, 2)]  #= list[int]
{k: len(k) for k in ["a"]}  #= dict[str, int]
first, *rest = (1, "a", "b")
rest  #= list[str]
(1, "a", 2.0)[-1]  #= float
(1, "a", 2.0)[1:]  #= tuple[Literal["a"], float]


def filled():
    found = []
    for n in range(3):
        found.append(n)
    found  #= list[int]
    table = {}
    table["a"] = 1.5
    table  #= dict[str, float]


def wide() -> list[float | None]:
    values: list[float | None] = [1, None]
    values.append(2.5)
    return [1.0]


class Vessel:
    pass


class Ferry(Vessel):
    pass


fleet: list[Vessel] = [Ferry()]
ferries = [Ferry()]
fleet = ferries  #! generic.invariant "any `Vessel` could then be put among its `Ferry`"
