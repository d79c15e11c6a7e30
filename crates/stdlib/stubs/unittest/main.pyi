# The module unittest.main, after the library reference ("unittest").
import sys
from collections.abc import Iterable
from types import ModuleType
from typing import Any
from unittest.loader import TestLoader
from unittest.result import TestResult
from unittest.suite import TestSuite
MAIN_EXAMPLES: str
MODULE_EXAMPLES: str

class TestProgram:
    result: TestResult
    module: None | str | ModuleType
    verbosity: int
    failfast: bool | None
    catchbreak: bool | None
    buffer: bool | None
    progName: str | None
    warnings: str | None
    testNamePatterns: list[str] | None
    tb_locals: bool
    if sys.version_info >= (3, 12):
        durations: int | None
    exit: bool
    defaultTest: Any
    testRunner: Any
    testLoader: TestLoader
    test: TestSuite
    testNames: Any
    start: str
    pattern: str | None
    top: str | None
    if sys.version_info >= (3, 12):
        def __init__(self, module: None | str | ModuleType = "__main__", defaultTest: str | Iterable[str] | None = None, argv: list[str] | None = None, testRunner: Any = None, testLoader: TestLoader = ..., exit: bool = True, verbosity: int = 1, failfast: bool | None = None, catchbreak: bool | None = None, buffer: bool | None = None, warnings: str | None = None, *, tb_locals: bool = False, durations: int | None = None) -> None: ...
    else:
        def __init__(self, module: None | str | ModuleType = '__main__', defaultTest: str | Iterable[str] | None = None, argv: list[str] | None = None, testRunner: Any = None, testLoader: TestLoader = ..., exit: bool = True, verbosity: int = 1, failfast: bool | None = None, catchbreak: bool | None = None, buffer: bool | None = None, warnings: str | None = None, *, tb_locals: bool = False) -> None: ...
    if sys.version_info < (3, 13):
        def usageExit(self, msg: Any = None) -> None: ...
    def parseArgs(self, argv: list[str]) -> None: ...
    def createTests(self, from_discovery: bool = False, Loader: TestLoader | None = None) -> None: ...
    def runTests(self) -> None: ...
main = TestProgram
