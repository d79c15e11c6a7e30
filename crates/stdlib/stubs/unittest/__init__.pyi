# Partly written: what is missing is unknown, not absent.
import sys
from .case import SkipTest as SkipTest, TestCase as TestCase, FunctionTestCase as FunctionTestCase, IsolatedAsyncioTestCase as IsolatedAsyncioTestCase
from .case import expectedFailure as expectedFailure, skip as skip, skipIf as skipIf, skipUnless as skipUnless
from typing import Any

def main(module: Any = "__main__", defaultTest: Any = None, argv: list[str] | None = None, testRunner: Any = None, testLoader: Any = ..., exit: bool = True, verbosity: int = 1, failfast: bool | None = None, catchbreak: bool | None = None, buffer: bool | None = None, warnings: str | None = None, *, tb_locals: bool = False, durations: int | None = None) -> Any: ...
from unittest.result import TestResult as TestResult
from unittest.case import addModuleCleanup as addModuleCleanup
from unittest.suite import TestSuite as TestSuite
from unittest.loader import TestLoader

from unittest.result import TestResult as TestResult
from unittest.case import addModuleCleanup as addModuleCleanup
from unittest.case import TestCase as TestCase
from unittest.case import FunctionTestCase as FunctionTestCase
from unittest.case import SkipTest as SkipTest
from unittest.case import skip as skip
from unittest.case import skipIf as skipIf
from unittest.case import skipUnless as skipUnless
from unittest.case import expectedFailure as expectedFailure
from unittest.case import doModuleCleanups as doModuleCleanups
from unittest.case import enterModuleContext as enterModuleContext
from unittest.suite import TestSuite as TestSuite
from unittest.loader import TestLoader as TestLoader
defaultTestLoader: TestLoader
if sys.version_info < (3, 13):
    from unittest.loader import makeSuite as makeSuite
    from unittest.loader import getTestCaseNames as getTestCaseNames
    from unittest.loader import findTestCases as findTestCases
from unittest.runner import TextTestRunner as TextTestRunner
from unittest.runner import TextTestResult as TextTestResult
from unittest.signals import installHandler as installHandler
from unittest.signals import registerResult as registerResult
from unittest.signals import removeResult as removeResult
from unittest.signals import removeHandler as removeHandler
if sys.version_info >= (3, 11):
    from unittest.case import doModuleCleanups as doModuleCleanups
    from unittest.case import enterModuleContext as enterModuleContext
