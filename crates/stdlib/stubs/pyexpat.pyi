# The machine code of xml.parsers.expat, after the library reference ("xml.parsers.expat").
import sys
from collections.abc import Callable
from typing import IO, Any
from typing_extensions import Buffer
EXPAT_VERSION: str
version_info: tuple[int, int, int]
native_encoding: str
features: list[tuple[str, int]]
XML_PARAM_ENTITY_PARSING_NEVER: int
XML_PARAM_ENTITY_PARSING_UNLESS_STANDALONE: int
XML_PARAM_ENTITY_PARSING_ALWAYS: int
expat_CAPI: Any
model: Any
errors: Any

class ExpatError(Exception):
    code: int
    lineno: int
    offset: int
error = ExpatError

class XMLParserType:
    def Parse(self, data: str | Buffer, isfinal: bool = False, /) -> int: ...
    def ParseFile(self, file: IO[bytes], /) -> int: ...
    def SetBase(self, base: str, /) -> None: ...
    def GetBase(self, /) -> str | None: ...
    def GetInputContext(self, /) -> bytes | None: ...
    def ExternalEntityParserCreate(self, context: str | None, encoding: str = ..., /) -> XMLParserType: ...
    def SetParamEntityParsing(self, flag: int, /) -> int: ...
    def UseForeignDTD(self, flag: bool = True, /) -> None: ...
    if sys.version_info >= (3, 13):
        def SetReparseDeferralEnabled(self, enabled: bool, /) -> None: ...
    if sys.version_info >= (3, 13):
        def GetReparseDeferralEnabled(self, /) -> bool: ...
    intern: dict[str, str]
    buffer_size: int
    buffer_text: bool
    buffer_used: int
    namespace_prefixes: bool
    ordered_attributes: bool
    specified_attributes: bool
    ErrorByteIndex: int
    ErrorCode: int
    ErrorColumnNumber: int
    ErrorLineNumber: int
    CurrentByteIndex: int
    CurrentColumnNumber: int
    CurrentLineNumber: int
    XmlDeclHandler: Callable[[str, str | None, int], Any] | None
    StartDoctypeDeclHandler: Callable[[str, str | None, str | None, bool], Any] | None
    EndDoctypeDeclHandler: Callable[[], Any] | None
    ElementDeclHandler: Callable[[str, Any], Any] | None
    AttlistDeclHandler: Callable[[str, str, str, str | None, bool], Any] | None
    StartElementHandler: Callable[[str, Any], Any] | None
    EndElementHandler: Callable[[str], Any] | None
    ProcessingInstructionHandler: Callable[[str, str], Any] | None
    CharacterDataHandler: Callable[[str], Any] | None
    UnparsedEntityDeclHandler: Callable[..., Any] | None
    EntityDeclHandler: Callable[..., Any] | None
    NotationDeclHandler: Callable[..., Any] | None
    StartNamespaceDeclHandler: Callable[[str, str], Any] | None
    EndNamespaceDeclHandler: Callable[[str], Any] | None
    CommentHandler: Callable[[str], Any] | None
    StartCdataSectionHandler: Callable[[], Any] | None
    EndCdataSectionHandler: Callable[[], Any] | None
    DefaultHandler: Callable[[str], Any] | None
    DefaultHandlerExpand: Callable[[str], Any] | None
    NotStandaloneHandler: Callable[[], int] | None
    ExternalEntityRefHandler: Callable[..., int] | None
    SkippedEntityHandler: Callable[[str, bool], Any] | None

def ErrorString(code: int, /) -> str: ...
def ParserCreate(encoding: str | None = None, namespace_separator: str | None = None, intern: dict[str, Any] | None = None) -> XMLParserType: ...
