# The module unittest.async_case, after the library reference ("unittest").
import sys
from asyncio.events import AbstractEventLoop
from collections.abc import Awaitable, Callable
from contextlib import AbstractAsyncContextManager
from typing import ParamSpec, TypeVar
from unittest.case import TestCase
_T = TypeVar("_T")
_P = ParamSpec("_P")

class IsolatedAsyncioTestCase(TestCase):
    if sys.version_info >= (3, 13):
        loop_factory: Callable[[], AbstractEventLoop] | None
    def __init__(self, methodName: str = "runTest") -> None: ...
    async def asyncSetUp(self) -> None: ...
    async def asyncTearDown(self) -> None: ...
    def addAsyncCleanup(self, func: Callable[_P, Awaitable[object]], /, *args: _P.args, **kwargs: _P.kwargs) -> None: ...
    if sys.version_info >= (3, 11):
        async def enterAsyncContext(self, cm: AbstractAsyncContextManager[_T]) -> _T: ...
