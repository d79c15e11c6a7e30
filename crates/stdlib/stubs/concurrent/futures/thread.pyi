# Standard library reference, "ThreadPoolExecutor".
from collections.abc import Callable
from typing import Any

from ._base import BrokenExecutor, Executor

class BrokenThreadPool(BrokenExecutor): ...

class ThreadPoolExecutor(Executor):
    def __init__(
        self, max_workers: int | None = None, thread_name_prefix: str = "", initializer: Callable[..., object] | None = None,
        initargs: tuple[Any, ...] = (),
    ) -> None: ...
