# The module asyncio.threads, after the library reference ("asyncio", "Running in Threads").
import sys
from collections.abc import Callable
from typing import ParamSpec, TypeVar
if sys.version_info >= (3, 9):
    _P = ParamSpec("_P")
if sys.version_info >= (3, 9):
    _T = TypeVar("_T")
if sys.version_info >= (3, 9):
    async def to_thread(func: Callable[_P, _T], /, *args: _P.args, **kwargs: _P.kwargs) -> _T: ...
