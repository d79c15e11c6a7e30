# The module asyncio.staggered, after its source.
from asyncio.events import AbstractEventLoop
from collections.abc import Awaitable, Callable, Iterable
from typing import Any
async def staggered_race(coro_fns: Iterable[Callable[[], Awaitable[Any]]], delay: float | None, *, loop: AbstractEventLoop | None = None) -> tuple[Any, int | None, list[Exception | None]]: ...
