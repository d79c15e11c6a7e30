# The package unittest, after the library reference ("unittest").
import sys
from unittest.async_case import IsolatedAsyncioTestCase as IsolatedAsyncioTestCase
from unittest.case import FunctionTestCase as FunctionTestCase, SkipTest as SkipTest, TestCase as TestCase
from unittest.case import addModuleCleanup as addModuleCleanup, expectedFailure as expectedFailure
from unittest.case import skip as skip, skipIf as skipIf, skipUnless as skipUnless
from unittest.loader import TestLoader as TestLoader, defaultTestLoader as defaultTestLoader
from unittest.main import TestProgram as TestProgram, main as main
from unittest.result import TestResult as TestResult
from unittest.runner import TextTestResult as TextTestResult, TextTestRunner as TextTestRunner
from unittest.signals import installHandler as installHandler, registerResult as registerResult
from unittest.signals import removeHandler as removeHandler, removeResult as removeResult
from unittest.suite import BaseTestSuite as BaseTestSuite, TestSuite as TestSuite
if sys.version_info < (3, 13):
    from unittest.loader import findTestCases as findTestCases, getTestCaseNames as getTestCaseNames, makeSuite as makeSuite
if sys.version_info >= (3, 11):
    from unittest.case import doModuleCleanups as doModuleCleanups, enterModuleContext as enterModuleContext
if sys.version_info < (3, 12):
    def load_tests(loader: TestLoader, tests: TestSuite, pattern: str | None) -> TestSuite: ...
