# The module warnings, after the library reference ("warnings").
import sys
from collections.abc import Callable, Sequence
from types import ModuleType, TracebackType
from typing import Any, Generic, Literal, TextIO, TypeVar, overload

_T = TypeVar("_T")
_W = TypeVar("_W", bound=list[WarningMessage] | None)
_Action = Literal["default", "error", "ignore", "always", "module", "once"]

filters: Sequence[tuple[str, Any, type[Warning], Any, int]]
defaultaction: str
onceregistry: dict[Any, Any]

@overload
def warn(
    message: str, category: type[Warning] | None = None, stacklevel: int = 1, source: Any = None, *, skip_file_prefixes: tuple[str, ...] = (),
) -> None: ...
@overload
def warn(
    message: Warning, category: Any = None, stacklevel: int = 1, source: Any = None, *, skip_file_prefixes: tuple[str, ...] = (),
) -> None: ...
def warn_explicit(
    message: str | Warning, category: Any, filename: str, lineno: int, module: str | None = None, registry: dict[Any, Any] | None = None,
    module_globals: dict[str, Any] | None = None, source: Any = None,
) -> None: ...
def showwarning(
    message: Warning | str, category: type[Warning], filename: str, lineno: int, file: TextIO | None = None, line: str | None = None,
) -> None: ...
def formatwarning(message: Warning | str, category: type[Warning], filename: str, lineno: int, line: str | None = None) -> str: ...
def filterwarnings(
    action: _Action, message: str = "", category: type[Warning] = ..., module: str = "", lineno: int = 0, append: bool = False,
) -> None: ...
def simplefilter(action: _Action, category: type[Warning] = ..., lineno: int = 0, append: bool = False) -> None: ...
def resetwarnings() -> None: ...

class _OptionError(Exception): ...

class WarningMessage:
    message: Warning | str
    category: type[Warning]
    filename: str
    lineno: int
    file: TextIO | None
    line: str | None
    source: Any
    def __init__(
        self, message: Warning | str, category: type[Warning], filename: str, lineno: int, file: TextIO | None = None,
        line: str | None = None, source: Any = None,
    ) -> None: ...

class catch_warnings(Generic[_W]):
    @overload
    def __init__(
        self: catch_warnings[None], *, record: Literal[False] = False, module: ModuleType | None = None, action: _Action | None = None,
        category: type[Warning] = ..., lineno: int = 0, append: bool = False,
    ) -> None: ...
    @overload
    def __init__(
        self: catch_warnings[list[WarningMessage]], *, record: Literal[True], module: ModuleType | None = None,
        action: _Action | None = None, category: type[Warning] = ..., lineno: int = 0, append: bool = False,
    ) -> None: ...
    @overload
    def __init__(
        self: catch_warnings[list[WarningMessage] | None], *, record: bool, module: ModuleType | None = None,
        action: _Action | None = None, category: type[Warning] = ..., lineno: int = 0, append: bool = False,
    ) -> None: ...
    def __enter__(self) -> _W: ...
    def __exit__(self, exc_type: type[BaseException] | None, exc_val: BaseException | None, exc_tb: TracebackType | None) -> None: ...

if sys.version_info >= (3, 13):
    class deprecated:
        message: str
        category: type[Warning] | None
        stacklevel: int
        def __init__(self, message: str, /, *, category: type[Warning] | None = ..., stacklevel: int = 1) -> None: ...
        def __call__(self, arg: _T, /) -> _T: ...
