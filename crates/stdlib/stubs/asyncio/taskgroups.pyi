# The module asyncio.taskgroups, after the library reference ("asyncio", "Task Groups").
import sys
from asyncio.tasks import Task
from collections.abc import Coroutine, Generator
from contextvars import Context
from types import TracebackType
from typing import Any, TypeVar
from typing_extensions import Self
if sys.version_info >= (3, 11):
    _T = TypeVar("_T")
if sys.version_info >= (3, 11):
    class TaskGroup:
        if sys.version_info >= (3, 11):
            async def __aenter__(self) -> Self: ...
        if sys.version_info >= (3, 11):
            async def __aexit__(self, et: type[BaseException] | None, exc: BaseException | None, tb: TracebackType | None) -> None: ...
        if sys.version_info >= (3, 11):
            def create_task(self, coro: Generator[Any, None, _T] | Coroutine[Any, Any, _T], *, name: str | None = None, context: Context | None = None) -> Task[_T]: ...
