"""What somebody said: docstrings, bases, the language itself."""
from __future__ import annotations


class Vessel:
    pass


def moor(vessel, berth, names):  #= vessel: Vessel fair docstrings; berth: int fair docstrings; names: list[str] fair docstrings
    """Moors.

    :param Vessel vessel: which one
    :param int berth: where
    :param names: whose
    :type names: list of str
    """
    print(vessel, berth, names)


moor(Vessel(), *[])


def depth(island):  #= island: str fair docstrings; -> float sure docstrings returns
    """Sounds.

    Args:
        island (str): where

    Returns:
        float: in metres
    """
    return 3


class Desk:
    def open(self, hour: int) -> bool:
        return hour > 8

    def __eq__(self, other):  #= other: object sure bases; -> bool sure bases returns
        return self is other

    def __exit__(self, kind, error, trace):  #= kind: type[BaseException] | None sure; trace: TracebackType | None sure
        self.open(1)

    def __enter__(self):
        return self


class Kiosk(Desk):
    def open(self, hour):  #= hour: int fair bases uses; -> bool sure
        return hour > 9


class Tariff(dict):
    def __setitem__(self, key, value):  #= -> None sure bases returns
        super().__setitem__(key, value)


class Berth:
    def __init__(self):
        self._depth = 3.5

    @property
    def depth(self):  #= -> float fair returns
        return self._depth

    @depth.setter
    def depth(self, value):  #= value: float fair bases
        self._depth = value
