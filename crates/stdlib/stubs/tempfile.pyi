# The module tempfile, after the library reference ("tempfile").
import sys
from collections.abc import Iterable, Iterator
from os import PathLike
from types import TracebackType
from typing import IO, Any, AnyStr, Generic, Literal, overload
from typing_extensions import Self

TMP_MAX: int
tempdir: str | None
template: str

class _TemporaryFileWrapper(IO[AnyStr]):
    file: IO[AnyStr]
    name: str
    delete: bool
    def __init__(self, file: IO[AnyStr], name: str, delete: bool = True, delete_on_close: bool = True) -> None: ...
    def __enter__(self) -> Self: ...
    def __exit__(self, exc: type[BaseException] | None, value: BaseException | None, tb: TracebackType | None) -> bool | None: ...
    def close(self) -> None: ...

_Text = Literal["r", "w", "a", "x", "r+", "w+", "a+", "x+", "rt", "wt", "at", "xt", "r+t", "w+t", "a+t", "x+t"]
_Bytes = Literal["rb", "wb", "ab", "xb", "r+b", "w+b", "a+b", "x+b", "rb+", "wb+", "ab+", "xb+"]

@overload
def NamedTemporaryFile(
    mode: _Bytes = "w+b", buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, delete: bool = True, *, errors: str | None = None, delete_on_close: bool = True,
) -> _TemporaryFileWrapper[bytes]: ...
@overload
def NamedTemporaryFile(
    mode: _Text, buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, delete: bool = True, *, errors: str | None = None, delete_on_close: bool = True,
) -> _TemporaryFileWrapper[str]: ...
@overload
def NamedTemporaryFile(
    mode: str = "w+b", buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, delete: bool = True, *, errors: str | None = None, delete_on_close: bool = True,
) -> _TemporaryFileWrapper[Any]: ...
@overload
def TemporaryFile(
    mode: _Bytes = "w+b", buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, *, errors: str | None = None,
) -> IO[bytes]: ...
@overload
def TemporaryFile(
    mode: _Text, buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, *, errors: str | None = None,
) -> IO[str]: ...
@overload
def TemporaryFile(
    mode: str = "w+b", buffering: int = -1, encoding: str | None = None, newline: str | None = None, suffix: AnyStr | None = None,
    prefix: AnyStr | None = None, dir: Any = None, *, errors: str | None = None,
) -> IO[Any]: ...

class SpooledTemporaryFile(IO[AnyStr]):
    def __init__(
        self, max_size: int = 0, mode: str = "w+b", buffering: int = -1, encoding: str | None = None, newline: str | None = None,
        suffix: str | None = None, prefix: str | None = None, dir: Any = None, *, errors: str | None = None,
    ) -> None: ...
    def rollover(self) -> None: ...
    def __enter__(self) -> Self: ...

class TemporaryDirectory(Generic[AnyStr]):
    name: AnyStr
    @overload
    def __init__(
        self: TemporaryDirectory[str], suffix: str | None = None, prefix: str | None = None, dir: str | PathLike[str] | None = None,
        ignore_cleanup_errors: bool = False, *, delete: bool = True,
    ) -> None: ...
    @overload
    def __init__(
        self: TemporaryDirectory[bytes], suffix: bytes | None = None, prefix: bytes | None = None, dir: bytes | PathLike[bytes] | None = None,
        ignore_cleanup_errors: bool = False, *, delete: bool = True,
    ) -> None: ...
    def cleanup(self) -> None: ...
    def __enter__(self) -> AnyStr: ...
    def __exit__(self, exc: type[BaseException] | None, value: BaseException | None, tb: TracebackType | None) -> None: ...

@overload
def mkstemp(suffix: str | None = None, prefix: str | None = None, dir: str | PathLike[str] | None = None, text: bool = False) -> tuple[int, str]: ...
@overload
def mkstemp(suffix: bytes | None = None, prefix: bytes | None = None, dir: bytes | PathLike[bytes] | None = None, text: bool = False) -> tuple[int, bytes]: ...
@overload
def mkdtemp(suffix: str | None = None, prefix: str | None = None, dir: str | PathLike[str] | None = None) -> str: ...
@overload
def mkdtemp(suffix: bytes | None = None, prefix: bytes | None = None, dir: bytes | PathLike[bytes] | None = None) -> bytes: ...
def mktemp(suffix: str = "", prefix: str = "tmp", dir: str | PathLike[str] | None = None) -> str: ...
def gettempdir() -> str: ...
def gettempdirb() -> bytes: ...
def gettempprefix() -> str: ...
def gettempprefixb() -> bytes: ...
