# The module wsgiref.types, after the library reference ("wsgiref.types").
import sys
from collections.abc import Callable, Iterable, Iterator
from types import TracebackType
from typing import Any, Protocol, TypeAlias
if sys.version_info >= (3, 11):
    _Report: TypeAlias = tuple[type[BaseException], BaseException, TracebackType] | tuple[None, None, None]
if sys.version_info >= (3, 11):
    class StartResponse(Protocol):
        if sys.version_info >= (3, 11):
            def __call__(self, status: str, headers: list[tuple[str, str]], exc_info: _Report | None = ..., /) -> Callable[[bytes], object]: ...
if sys.version_info >= (3, 11):
    WSGIEnvironment: TypeAlias = dict[str, Any]
if sys.version_info >= (3, 11):
    WSGIApplication: TypeAlias = Callable[[WSGIEnvironment, StartResponse], Iterable[bytes]]
if sys.version_info >= (3, 11):
    class InputStream(Protocol):
        if sys.version_info >= (3, 11):
            def read(self, size: int = ..., /) -> bytes: ...
        if sys.version_info >= (3, 11):
            def readline(self, size: int = ..., /) -> bytes: ...
        if sys.version_info >= (3, 11):
            def readlines(self, hint: int = ..., /) -> list[bytes]: ...
        if sys.version_info >= (3, 11):
            def __iter__(self) -> Iterator[bytes]: ...
if sys.version_info >= (3, 11):
    class ErrorStream(Protocol):
        if sys.version_info >= (3, 11):
            def flush(self) -> object: ...
        if sys.version_info >= (3, 11):
            def write(self, s: str, /) -> object: ...
        if sys.version_info >= (3, 11):
            def writelines(self, seq: list[str], /) -> object: ...
if sys.version_info >= (3, 11):
    class FileWrapper(Protocol):
        if sys.version_info >= (3, 11):
            def __call__(self, file: Any, block_size: int = ..., /) -> Iterable[bytes]: ...
