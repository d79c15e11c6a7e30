# The module email.generator, after the library reference ("email.generator").
import sys
from email.message import Message
from email.policy import Policy
from re import Pattern
from typing import IO, Any
from typing_extensions import Self
UNDERSCORE: str
NL: str
NLCRE: Pattern[str]
fcre: Pattern[str]
if sys.version_info >= (3, 13):
    NEWLINE_WITHOUT_FWSP: Pattern[str]

class Generator:
    maxheaderlen: int | None
    policy: Policy | None
    def __init__(self, outfp: IO[Any], mangle_from_: bool | None = None, maxheaderlen: int | None = None, *, policy: Policy | None = None) -> None: ...
    def write(self, s: str) -> None: ...
    def flatten(self, msg: Message, unixfrom: bool = False, linesep: str | None = None) -> None: ...
    def clone(self, fp: IO[Any]) -> Self: ...

class BytesGenerator(Generator):
    def write(self, s: str) -> None: ...

class DecodedGenerator(Generator):
    def __init__(self, outfp: IO[Any], mangle_from_: bool | None = None, maxheaderlen: int | None = None, fmt: str | None = None, *, policy: Policy | None = None) -> None: ...
