# The module asyncio.coroutines, after the library reference ("asyncio", "Coroutines and Tasks").
import sys
from collections.abc import Awaitable, Callable, Coroutine
from typing import Any, TypeVar
from typing_extensions import TypeIs
_F = TypeVar("_F", bound=Callable[..., object])
if sys.version_info < (3, 11):
    def coroutine(func: _F) -> _F: ...

def iscoroutinefunction(func: object) -> bool: ...
def iscoroutine(obj: object) -> TypeIs[Coroutine[Any, Any, Any]]: ...
