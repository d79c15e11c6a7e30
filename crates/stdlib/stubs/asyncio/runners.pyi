# The module asyncio.runners, after the library reference ("asyncio", "Runners").
import sys
from asyncio.events import AbstractEventLoop
from collections.abc import Callable, Coroutine
from contextvars import Context
from types import TracebackType
from typing import Any, TypeVar
from typing_extensions import Self
_T = TypeVar("_T")
if sys.version_info >= (3, 11):
    class Runner:
        if sys.version_info >= (3, 11):
            def __init__(self, *, debug: bool | None = None, loop_factory: Callable[[], AbstractEventLoop] | None = None) -> None: ...
        if sys.version_info >= (3, 11):
            def __enter__(self) -> Self: ...
        if sys.version_info >= (3, 11):
            def __exit__(self, exc_type: type[BaseException] | None, exc_val: BaseException | None, exc_tb: TracebackType | None) -> None: ...
        if sys.version_info >= (3, 11):
            def close(self) -> None: ...
        if sys.version_info >= (3, 11):
            def get_loop(self) -> AbstractEventLoop: ...
        if sys.version_info >= (3, 11):
            def run(self, coro: Coroutine[Any, Any, _T], *, context: Context | None = None) -> _T: ...
if sys.version_info >= (3, 12):
    def run(main: Coroutine[Any, Any, _T], *, debug: bool | None = None, loop_factory: Callable[[], AbstractEventLoop] | None = None) -> _T: ...
else:
    def run(main: Coroutine[Any, Any, _T], *, debug: bool | None = None) -> _T: ...
