# The package xml.sax, after the library reference ("xml.sax").
from collections.abc import Iterable
from typing import Any
from xml.sax._exceptions import SAXException as SAXException, SAXNotRecognizedException as SAXNotRecognizedException
from xml.sax._exceptions import SAXNotSupportedException as SAXNotSupportedException, SAXParseException as SAXParseException
from xml.sax._exceptions import SAXReaderNotAvailable as SAXReaderNotAvailable
from xml.sax.handler import ContentHandler as ContentHandler, ErrorHandler as ErrorHandler
from xml.sax.xmlreader import InputSource as InputSource, XMLReader
default_parser_list: list[str]
def make_parser(parser_list: Iterable[str] = ()) -> XMLReader: ...
def parse(source: Any, handler: ContentHandler, errorHandler: ErrorHandler = ...) -> None: ...
def parseString(string: str | bytes | bytearray | memoryview, handler: ContentHandler, errorHandler: ErrorHandler | None = ...) -> None: ...
