from typing import Annotated, Any, Callable, Dict, List, Literal, Optional, Tuple, Type, Union


def forms(
    a: Optional[int],
    b: Union[int, str],
    c: List[int],
    d: Dict[str, "Vessel"],
    e: Tuple[int, ...],
    f: Callable[[int], str],
    g: Type["Vessel"],
    h: Literal["x", 3],
    i: Annotated[int, "metres"],
    j: "int | None",
    k: Any,
):
    a  #= int | None
    b  #= int | str
    c  #= list[int]
    d  #= dict[str, Vessel]
    e  #= tuple[int, ...]
    f(3)  #= str
    g()  #= Vessel
    h  #= Literal["x", 3]
    i  #= int
    j  #= int | None
    k  #= Any


class Vessel:
    def list(self) -> int:
        return 3

    def names(self) -> "list[str]":  #! name.shadowed "hides the built-in `list`"
        return []


depth: 3 = 3  #! annotation.invalid
width: int = "x"  #! value.assign "`width`"
old = []  # type: List[int]
old  #= list[int]


def commented(a, b):
    # type: (int, str) -> List[str]
    a  #= int
    return [b]


commented(1, "x")  #= list[str]
