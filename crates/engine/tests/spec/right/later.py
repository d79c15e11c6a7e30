#- quiet
#- main.py
"""Names in annotations, and variables of other modules."""
from __future__ import annotations

from typing import Callable, Generic, TypeVar, overload

from grains import Grain

T = TypeVar("T")


class crest(Generic[T]): ...


class Maker:
    @overload
    def crest(self, a: T) -> crest[T]: ...
    @overload
    def crest(self, a: T, b: int) -> crest[T]: ...
    def crest(self, a: T, b: int = 0) -> crest[T]: ...


class Mill:
    def grind(self, feed: Callable[[], Grain]) -> Grain: ...


class Silo(Generic[Grain]):
    feed: Callable[[], Grain]
    mill: Mill

    def next(self) -> Grain:
        return self.mill.grind(self.feed)


#- grains.py
from typing_extensions import TypeVar

Grain = TypeVar("Grain", default=int)
