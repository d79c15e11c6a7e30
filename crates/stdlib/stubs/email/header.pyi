# The module email.header, after the library reference ("email.header").
from collections.abc import Iterable
from email.charset import Charset
from re import Pattern
from typing import Any
NL: str
SPACE: str
BSPACE: bytes
SPACE8: str
EMPTYSTRING: str
MAXLINELEN: int
FWS: str
USASCII: Charset
UTF8: Charset
ecre: Pattern[str]
fcre: Pattern[str]

class Header:
    def __init__(self, s: bytes | bytearray | str | None = None, charset: Charset | str | None = None, maxlinelen: int | None = None, header_name: str | None = None, continuation_ws: str = " ", errors: str = "strict") -> None: ...
    def append(self, s: bytes | bytearray | str, charset: Charset | str | None = None, errors: str = "strict") -> None: ...
    def encode(self, splitchars: str = ";, \t", maxlinelen: int | None = None, linesep: str = "\n") -> str: ...
    def __eq__(self, other: object) -> bool: ...

def decode_header(header: Header | str) -> list[tuple[Any, str | None]]: ...
def make_header(decoded_seq: Iterable[tuple[bytes | str, str | None]], maxlinelen: int | None = None, header_name: str | None = None, continuation_ws: str = " ") -> Header: ...
