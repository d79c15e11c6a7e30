# The package tomllib, after the library reference ("tomllib").
import sys
from collections.abc import Callable
from typing import IO, Any
if sys.version_info >= (3, 11):
    class TOMLDecodeError(ValueError):
        msg: str
        doc: str
        pos: int
        lineno: int
        colno: int
if sys.version_info >= (3, 11):
    def load(fp: IO[bytes], /, *, parse_float: Callable[[str], Any] = ...) -> dict[str, Any]: ...
if sys.version_info >= (3, 11):
    def loads(s: str, /, *, parse_float: Callable[[str], Any] = ...) -> dict[str, Any]: ...
