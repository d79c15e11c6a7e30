"""Properties, descriptors, and what decorators make of methods."""
import functools
from abc import ABC, abstractmethod
from contextlib import contextmanager


class Hull(ABC):
    count = 0

    def __init__(self, length, draught=1.5):
        self.length = length
        self.draught = draught
        self._secret = 3

    @property
    def depth(self):
        return self.draught + 1

    @depth.setter
    def depth(self, value):
        self.draught = value - 1

    @functools.cached_property
    def area(self):
        return 2.5

    width = property(lambda self: 4)

    @staticmethod
    @abstractmethod
    def made_of(kind: str) -> str: ...

    @classmethod
    def small(cls):
        return 3

    def old(cls):
        return 4

    old = classmethod(old)

    @contextmanager
    def afloat(self, high: bool = True):
        yield self.count

    @functools.lru_cache(maxsize=None)
    def weigh(self, load: float) -> float:
        return load


class Empty:
    pass
