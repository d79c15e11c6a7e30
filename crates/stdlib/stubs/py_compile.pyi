# The module py_compile, after the library reference ("py_compile").
import sys
import enum
from typing import Any, AnyStr

class PyCompileError(Exception):
    exc_type_name: str
    exc_value: BaseException
    file: str
    msg: str
    def __init__(self, exc_type: type[BaseException], exc_value: BaseException, file: str, msg: str = "") -> None: ...

class PycInvalidationMode(enum.Enum):
    TIMESTAMP = 1
    CHECKED_HASH = 2
    UNCHECKED_HASH = 3

def compile(file: Any, cfile: Any = None, dfile: Any = None, doraise: bool = False, optimize: int = -1, invalidation_mode: PycInvalidationMode | None = None, quiet: int = 0) -> Any: ...
if sys.version_info >= (3, 10):
    def main() -> int: ...
else:
    def main(args: list[str] | None = None) -> int: ...
