def assign(vessel: str, berth: int, *, force: bool = False) -> str:
    return vessel


assign("Gannet", 3)  #= str
assign("Gannet")  #! call.missing "`berth`"
assign("Gannet", 3, True)  #! call.surplus "takes 2 positional arguments, 3 given"
assign("Gannet", "3")  #! call.argument "`berth`"
assign("Gannet", 3, forc=True)  #! call.keyword "is `force` meant?"
assign("Gannet", berth=3, force=True)


def many(*names: str, **depths: float):
    names  #= tuple[str, ...]
    depths  #= dict[str, float]


many("a", "b", c=1)
many("a", 2)  #! call.argument
args = ["a"]
options = {}
many(*args, **options)


class Callable1:
    def __call__(self, x: int) -> str:
        return ""


Callable1()(3)  #= str
Callable1()("3")  #! call.argument
