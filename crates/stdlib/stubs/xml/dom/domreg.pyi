# The module xml.dom.domreg, after its source.
from collections.abc import Callable, Iterable
from typing import Any
well_known_implementations: dict[str, str]
registered: dict[str, Callable[[], Any]]
def registerDOMImplementation(name: str, factory: Callable[[], Any]) -> None: ...
def getDOMImplementation(name: str | None = None, features: str | Iterable[tuple[str, str | None]] = ()) -> Any: ...
