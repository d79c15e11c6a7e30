# The module locale, after the library reference ("locale").
import sys
from collections.abc import Callable, Iterable, Mapping
from decimal import Decimal
from typing import Any
from builtins import str as _str

class Error(Exception): ...
LC_ALL: int
LC_COLLATE: int
LC_CTYPE: int
LC_MESSAGES: int
LC_MONETARY: int
LC_NUMERIC: int
LC_TIME: int
CHAR_MAX: int
CODESET: int
D_T_FMT: int
D_FMT: int
T_FMT: int
T_FMT_AMPM: int
AM_STR: int
PM_STR: int
DAY_1: int
DAY_2: int
DAY_3: int
DAY_4: int
DAY_5: int
DAY_6: int
DAY_7: int
ABDAY_1: int
ABDAY_2: int
ABDAY_3: int
ABDAY_4: int
ABDAY_5: int
ABDAY_6: int
ABDAY_7: int
MON_1: int
MON_2: int
MON_3: int
MON_4: int
MON_5: int
MON_6: int
MON_7: int
MON_8: int
MON_9: int
MON_10: int
MON_11: int
MON_12: int
ABMON_1: int
ABMON_2: int
ABMON_3: int
ABMON_4: int
ABMON_5: int
ABMON_6: int
ABMON_7: int
ABMON_8: int
ABMON_9: int
ABMON_10: int
ABMON_11: int
ABMON_12: int
RADIXCHAR: int
THOUSEP: int
YESEXPR: int
NOEXPR: int
CRNCYSTR: int
ERA: int
ERA_D_T_FMT: int
ERA_D_FMT: int
ERA_T_FMT: int
ALT_DIGITS: int
def setlocale(category: int, locale: _str | Iterable[_str | None] | None = None) -> _str: ...
def localeconv() -> dict[_str, Any]: ...
def nl_langinfo(key: int, /) -> _str: ...
def getdefaultlocale(envvars: tuple[_str, ...] = ("LC_ALL", "LC_CTYPE", "LANG", "LANGUAGE")) -> tuple[_str | None, _str | None]: ...
def getlocale(category: int = 0) -> tuple[_str | None, _str | None]: ...
def getpreferredencoding(do_setlocale: bool = True) -> _str: ...
if sys.version_info >= (3, 11):
    def getencoding() -> _str: ...

def normalize(localename: _str) -> _str: ...
if sys.version_info < (3, 13):
    def resetlocale(category: int = 6) -> None: ...

def strcoll(os1: _str, os2: _str, /) -> int: ...
def strxfrm(string: _str, /) -> _str: ...
if sys.version_info < (3, 12):
    def format(percent: _str, value: float | Decimal, grouping: bool = False, monetary: bool = False, *additional: Any) -> _str: ...

def format_string(f: _str, val: Any, grouping: bool = False, monetary: bool = False) -> _str: ...
def currency(val: float | Decimal, symbol: bool = True, grouping: bool = False, international: bool = False) -> _str: ...
def delocalize(string: _str) -> _str: ...
if sys.version_info >= (3, 10):
    def localize(string: _str, grouping: bool = False, monetary: bool = False) -> _str: ...

def atof(string: _str, func: Callable[[_str], Any] = ...) -> Any: ...
def atoi(string: _str) -> int: ...
def str(val: float) -> _str: ...
def gettext(msg: Any, /) -> Any: ...
def dgettext(domain: Any, msg: Any, /) -> Any: ...
def dcgettext(domain: Any, msg: Any, category: int, /) -> Any: ...
def textdomain(domain: Any, /) -> Any: ...
def bindtextdomain(domain: Any, dir: Any, /) -> Any: ...
def bind_textdomain_codeset(domain: Any, codeset: Any, /) -> Any: ...
locale_alias: dict[Any, Any]
locale_encoding_alias: dict[Any, Any]
windows_locale: dict[int, Any]
