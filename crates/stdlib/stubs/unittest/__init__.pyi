# Partly written: what is missing is unknown, not absent.
from .case import SkipTest as SkipTest, TestCase as TestCase, FunctionTestCase as FunctionTestCase, IsolatedAsyncioTestCase as IsolatedAsyncioTestCase
from .case import expectedFailure as expectedFailure, skip as skip, skipIf as skipIf, skipUnless as skipUnless
from typing import Any

def main(module: Any = "__main__", defaultTest: Any = None, argv: list[str] | None = None, testRunner: Any = None, testLoader: Any = ..., exit: bool = True, verbosity: int = 1, failfast: bool | None = None, catchbreak: bool | None = None, buffer: bool | None = None, warnings: str | None = None, *, tb_locals: bool = False, durations: int | None = None) -> Any: ...
def __getattr__(name: str) -> Any: ...
