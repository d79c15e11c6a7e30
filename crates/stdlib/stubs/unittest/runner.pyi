# The module unittest.runner, after the library reference ("unittest").
import sys
from collections.abc import Callable
from typing import Any, TextIO
from unittest.case import TestCase
from unittest.result import TestResult
from unittest.suite import TestSuite

class TextTestResult(TestResult):
    descriptions: bool
    dots: bool
    separator1: str
    separator2: str
    showAll: bool
    stream: Any
    if sys.version_info >= (3, 12):
        durations: int | None
    if sys.version_info >= (3, 12):
        def __init__(self, stream: Any, descriptions: bool, verbosity: int, *, durations: int | None = None) -> None: ...
    else:
        def __init__(self, stream: Any, descriptions: bool, verbosity: int) -> None: ...
    def getDescription(self, test: TestCase) -> str: ...
    def printErrorList(self, flavour: str, errors: list[tuple[TestCase, str]]) -> None: ...

class TextTestRunner:
    resultclass: Callable[..., TestResult]
    stream: Any
    descriptions: bool
    verbosity: int
    failfast: bool
    buffer: bool
    warnings: str | None
    tb_locals: bool
    if sys.version_info >= (3, 12):
        durations: int | None
    if sys.version_info >= (3, 12):
        def __init__(self, stream: TextIO | None = None, descriptions: bool = True, verbosity: int = 1, failfast: bool = False, buffer: bool = False, resultclass: Callable[..., TestResult] | None = None, warnings: str | None = None, *, tb_locals: bool = False, durations: int | None = None) -> None: ...
    else:
        def __init__(self, stream: TextIO | None = None, descriptions: bool = True, verbosity: int = 1, failfast: bool = False, buffer: bool = False, resultclass: Callable[..., TestResult] | None = None, warnings: str | None = None, *, tb_locals: bool = False) -> None: ...
    def run(self, test: TestSuite | TestCase) -> TestResult: ...
