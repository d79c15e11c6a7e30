# The module codeop, after the library reference ("codeop").
import sys
from types import CodeType
from typing import Any
PyCF_DONT_IMPLY_DEDENT: int
if sys.version_info >= (3, 10):
    PyCF_ALLOW_INCOMPLETE_INPUT: int

def compile_command(source: str, filename: str = "<input>", symbol: str = "single") -> CodeType | None: ...
class Compile:
    flags: int
    def __init__(self) -> None: ...
    if sys.version_info >= (3, 11):
        def __call__(self, source: str, filename: str, symbol: str, **kwargs: Any) -> CodeType: ...
    else:
        def __call__(self, source: str, filename: str, symbol: str) -> CodeType: ...

class CommandCompiler:
    compiler: Compile
    def __init__(self) -> None: ...
    def __call__(self, source: str, filename: str = "<input>", symbol: str = "single") -> CodeType | None: ...
