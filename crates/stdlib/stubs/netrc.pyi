# The module netrc, after the library reference ("netrc").
from os import PathLike

class NetrcParseError(Exception):
    filename: str | None
    lineno: int | None
    msg: str
    def __init__(self, msg: str, filename: str | PathLike[str] | None = None, lineno: int | None = None) -> None: ...

class netrc:
    hosts: dict[str, tuple[str, str, str]]
    macros: dict[str, list[str]]
    def __init__(self, file: str | PathLike[str] | None = None) -> None: ...
    def authenticators(self, host: str) -> tuple[str, str, str] | None: ...
