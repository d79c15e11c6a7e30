# Standard library reference, "ProcessPoolExecutor".
import sys
from collections.abc import Callable
from typing import Any

from ._base import BrokenExecutor, Executor

EXTRA_QUEUED_CALLS: int

class BrokenProcessPool(BrokenExecutor): ...

class ProcessPoolExecutor(Executor):
    if sys.version_info >= (3, 11):
        def __init__(
            self, max_workers: int | None = None, mp_context: Any = None, initializer: Callable[..., object] | None = None,
            initargs: tuple[Any, ...] = (), *, max_tasks_per_child: int | None = None,
        ) -> None: ...
    else:
        def __init__(
            self, max_workers: int | None = None, mp_context: Any = None, initializer: Callable[..., object] | None = None,
            initargs: tuple[Any, ...] = (),
        ) -> None: ...
