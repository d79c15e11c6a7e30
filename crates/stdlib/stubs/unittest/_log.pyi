# What assertLogs gives, after the library reference ("unittest").
import sys
import logging
from types import TracebackType
from typing import Generic, NamedTuple, TypeVar
if sys.version_info >= (3, 9):
    _T = TypeVar("_T")
if sys.version_info >= (3, 9):
    class _LoggingWatcher(NamedTuple):
        if sys.version_info >= (3, 9):
            records: list[logging.LogRecord]
        if sys.version_info >= (3, 9):
            output: list[str]
if sys.version_info >= (3, 9):
    class _AssertLogsContext(Generic[_T]):
        logger_name: str | logging.Logger | None
        level: int
        msg: str | None
        no_logs: bool
        records: list[logging.LogRecord]
        output: list[str]
        if sys.version_info >= (3, 9):
            def __enter__(self) -> _T: ...
        if sys.version_info >= (3, 9):
            def __exit__(self, exc_type: type[BaseException] | None, exc_value: BaseException | None, tb: TracebackType | None) -> bool | None: ...
