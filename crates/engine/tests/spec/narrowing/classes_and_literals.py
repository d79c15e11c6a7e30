from typing import Literal


class Vessel:
    pass


class Ferry(Vessel):
    cars = 3


def kinds(value: int | str | list[int]):
    if isinstance(value, int):
        value  #= int
    elif isinstance(value, (str, bytes)):
        value  #= str
    else:
        value  #= list[int]


def derived(vessel: Vessel):
    if isinstance(vessel, Ferry):
        vessel.cars  #= int
    vessel  #= Vessel


def modes(mode: Literal["north", "south", "east"]):
    if mode == "north":
        mode  #= Literal["north"]
    elif mode in ("south",):
        mode  #= Literal["south"]
    else:
        mode  #= Literal["east"]


def closed(value: int | str):
    if isinstance(value, int):
        return 1
    if isinstance(value, str):
        return 2


closed(1)  #= int


def calls(value):
    if callable(value):
        value()
    if hasattr(value, "berth"):
        value.berth
