# The package tomllib, after the library reference ("tomllib").
import sys
from collections.abc import Callable
from typing import Any, BinaryIO
if sys.version_info >= (3, 11):
    class TOMLDecodeError(ValueError):
        msg: str
        doc: str
        pos: int
        lineno: int
        colno: int
if sys.version_info >= (3, 11):
    def load(fp: BinaryIO, /, *, parse_float: Callable[[str], Any] = ...) -> dict[str, Any]: ...
if sys.version_info >= (3, 11):
    def loads(s: str, /, *, parse_float: Callable[[str], Any] = ...) -> dict[str, Any]: ...
