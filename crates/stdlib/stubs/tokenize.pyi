# The module tokenize, after the library reference ("tokenize").
import sys
from collections.abc import Callable, Generator, Iterable, Sequence
from os import PathLike
from re import Pattern
from typing import Any, NamedTuple, TextIO
from token import *
from token import EXACT_TOKEN_TYPES as EXACT_TOKEN_TYPES

class _TokenInfo(NamedTuple):
    type: int
    string: str
    start: tuple[int, int]
    end: tuple[int, int]
    line: str

class TokenInfo(_TokenInfo):
    @property
    def exact_type(self) -> int: ...

class TokenError(Exception): ...
if sys.version_info < (3, 13):
    class StopTokenizing(Exception): ...

class Untokenizer:
    tokens: list[str]
    prev_row: int
    prev_col: int
    if sys.version_info >= (3, 13):
        prev_type: int | None
    prev_line: str
    encoding: str | None
    def __init__(self) -> None: ...
    def add_whitespace(self, start: tuple[int, int]) -> None: ...
    def add_backslash_continuation(self, start: tuple[int, int]) -> None: ...
    if sys.version_info >= (3, 13):
        def escape_brackets(self, token: str) -> str: ...
    def untokenize(self, iterable: Iterable[Any]) -> str: ...
    def compat(self, token: Sequence[int | str], iterable: Iterable[Any]) -> None: ...

def untokenize(iterable: Iterable[Any]) -> Any: ...
def detect_encoding(readline: Callable[[], bytes]) -> tuple[str, list[bytes]]: ...
def tokenize(readline: Callable[[], bytes]) -> Generator[TokenInfo, None, None]: ...
def generate_tokens(readline: Callable[[], str]) -> Generator[TokenInfo, None, None]: ...
def open(filename: str | bytes | PathLike[Any] | int) -> TextIO: ...
def group(*choices: str) -> str: ...
def any(*choices: str) -> str: ...
def maybe(*choices: str) -> str: ...
def main() -> None: ...
Binnumber: str
Comment: str
ContStr: str
Decnumber: str
Double: str
Double3: str
Expfloat: str
Exponent: str
Floatnumber: str
Funny: str
Hexnumber: str
Ignore: str
Imagnumber: str
Intnumber: str
Name: str
Number: str
Octnumber: str
PlainToken: str
Pointfloat: str
PseudoExtras: str
PseudoToken: str
Single: str
Single3: str
Special: str
String: str
StringPrefix: str
Token: str
Triple: str
Whitespace: str
blank_re: Pattern[str]
cookie_re: Pattern[str]
endpats: dict[str, str]
single_quoted: set[str]
if sys.version_info < (3, 11):
    t: str
tabsize: int
triple_quoted: set[str]
if sys.version_info < (3, 11):
    u: str
