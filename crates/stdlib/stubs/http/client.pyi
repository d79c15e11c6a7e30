# The module http.client, after the library reference ("http.client").
import sys
from collections.abc import Callable, Iterable, Iterator, Mapping
from email.message import Message
from http import HTTPStatus
from io import BufferedIOBase
from socket import socket
from ssl import SSLContext
from typing import IO, Any, BinaryIO, Protocol, TypeVar, overload
from typing_extensions import Buffer, Self
_T = TypeVar("_T")
class _Readable(Protocol):
    def read(self, n: int, /) -> bytes: ...
_Body = Buffer | _Readable | Iterable[Buffer] | str | None
HTTP_PORT: int
HTTPS_PORT: int
responses: dict[int, str]
CONTINUE: HTTPStatus
SWITCHING_PROTOCOLS: HTTPStatus
PROCESSING: HTTPStatus
if sys.version_info >= (3, 9):
    EARLY_HINTS: HTTPStatus
OK: HTTPStatus
CREATED: HTTPStatus
ACCEPTED: HTTPStatus
NON_AUTHORITATIVE_INFORMATION: HTTPStatus
NO_CONTENT: HTTPStatus
RESET_CONTENT: HTTPStatus
PARTIAL_CONTENT: HTTPStatus
MULTI_STATUS: HTTPStatus
ALREADY_REPORTED: HTTPStatus
IM_USED: HTTPStatus
MULTIPLE_CHOICES: HTTPStatus
MOVED_PERMANENTLY: HTTPStatus
FOUND: HTTPStatus
SEE_OTHER: HTTPStatus
NOT_MODIFIED: HTTPStatus
USE_PROXY: HTTPStatus
TEMPORARY_REDIRECT: HTTPStatus
PERMANENT_REDIRECT: HTTPStatus
BAD_REQUEST: HTTPStatus
UNAUTHORIZED: HTTPStatus
PAYMENT_REQUIRED: HTTPStatus
FORBIDDEN: HTTPStatus
NOT_FOUND: HTTPStatus
METHOD_NOT_ALLOWED: HTTPStatus
NOT_ACCEPTABLE: HTTPStatus
PROXY_AUTHENTICATION_REQUIRED: HTTPStatus
REQUEST_TIMEOUT: HTTPStatus
CONFLICT: HTTPStatus
GONE: HTTPStatus
LENGTH_REQUIRED: HTTPStatus
PRECONDITION_FAILED: HTTPStatus
if sys.version_info >= (3, 13):
    CONTENT_TOO_LARGE: HTTPStatus
REQUEST_ENTITY_TOO_LARGE: HTTPStatus
if sys.version_info >= (3, 13):
    URI_TOO_LONG: HTTPStatus
REQUEST_URI_TOO_LONG: HTTPStatus
UNSUPPORTED_MEDIA_TYPE: HTTPStatus
if sys.version_info >= (3, 13):
    RANGE_NOT_SATISFIABLE: HTTPStatus
REQUESTED_RANGE_NOT_SATISFIABLE: HTTPStatus
EXPECTATION_FAILED: HTTPStatus
if sys.version_info >= (3, 9):
    IM_A_TEAPOT: HTTPStatus
MISDIRECTED_REQUEST: HTTPStatus
if sys.version_info >= (3, 13):
    UNPROCESSABLE_CONTENT: HTTPStatus
UNPROCESSABLE_ENTITY: HTTPStatus
LOCKED: HTTPStatus
FAILED_DEPENDENCY: HTTPStatus
if sys.version_info >= (3, 9):
    TOO_EARLY: HTTPStatus
UPGRADE_REQUIRED: HTTPStatus
PRECONDITION_REQUIRED: HTTPStatus
TOO_MANY_REQUESTS: HTTPStatus
REQUEST_HEADER_FIELDS_TOO_LARGE: HTTPStatus
UNAVAILABLE_FOR_LEGAL_REASONS: HTTPStatus
INTERNAL_SERVER_ERROR: HTTPStatus
NOT_IMPLEMENTED: HTTPStatus
BAD_GATEWAY: HTTPStatus
SERVICE_UNAVAILABLE: HTTPStatus
GATEWAY_TIMEOUT: HTTPStatus
HTTP_VERSION_NOT_SUPPORTED: HTTPStatus
VARIANT_ALSO_NEGOTIATES: HTTPStatus
INSUFFICIENT_STORAGE: HTTPStatus
LOOP_DETECTED: HTTPStatus
NOT_EXTENDED: HTTPStatus
NETWORK_AUTHENTICATION_REQUIRED: HTTPStatus
class HTTPMessage(Message):
    def getallmatchingheaders(self, name: str) -> list[str]: ...
def parse_headers(fp: IO[bytes], _class: Callable[[], Message] = ...) -> HTTPMessage: ...
class HTTPResponse(BufferedIOBase, BinaryIO):
    fp: Any
    debuglevel: int
    headers: HTTPMessage
    msg: HTTPMessage
    version: int
    status: int
    reason: str
    code: int
    chunked: bool
    chunk_left: int | None
    length: int | None
    will_close: bool
    closed: bool
    def __init__(self, sock: socket, debuglevel: int = 0, method: str | None = None, url: str | None = None) -> None: ...
    def begin(self) -> None: ...
    def close(self) -> None: ...
    def flush(self) -> None: ...
    def readable(self) -> bool: ...
    def isclosed(self) -> bool: ...
    def read(self, amt: int | None = None) -> bytes: ...
    def readinto(self, b: Buffer) -> int: ...
    def peek(self, n: int = -1) -> bytes: ...
    def read1(self, n: int = -1) -> bytes: ...
    def readline(self, limit: int = -1) -> bytes: ...
    def fileno(self) -> int: ...
    @overload
    def getheader(self, name: str) -> str | None: ...
    @overload
    def getheader(self, name: str, default: _T) -> str | _T: ...
    def getheaders(self) -> list[tuple[str, str]]: ...
    def info(self) -> HTTPMessage: ...
    def geturl(self) -> str: ...
    def getcode(self) -> int: ...
    def __enter__(self) -> Self: ...
    def __iter__(self) -> Iterator[bytes]: ...
class HTTPConnection:
    response_class: type[HTTPResponse]
    default_port: int
    auto_open: int
    debuglevel: int
    timeout: float | None
    source_address: tuple[str, int] | None
    blocksize: int
    host: str
    port: int
    sock: socket | Any
    def __init__(self, host: str, port: int | None = None, timeout: float | None = ..., source_address: tuple[str, int] | None = None, blocksize: int = 8192) -> None: ...
    def set_tunnel(self, host: str, port: int | None = None, headers: Mapping[str, str] | None = None) -> None: ...
    if sys.version_info >= (3, 12):
        def get_proxy_response_headers(self) -> HTTPMessage | None: ...
    def set_debuglevel(self, level: int) -> None: ...
    def connect(self) -> None: ...
    def close(self) -> None: ...
    def send(self, data: Buffer | _Readable | Iterable[Buffer]) -> None: ...
    def putrequest(self, method: str, url: str, skip_host: bool = False, skip_accept_encoding: bool = False) -> None: ...
    def putheader(self, header: str | bytes, *values: str | bytes | int) -> None: ...
    def endheaders(self, message_body: _Body = None, *, encode_chunked: bool = False) -> None: ...
    def request(self, method: str, url: str, body: _Body = None, headers: Mapping[str, str | bytes | int] = ..., *, encode_chunked: bool = False) -> None: ...
    def getresponse(self) -> HTTPResponse: ...
class HTTPSConnection(HTTPConnection):
    if sys.version_info < (3, 12):
        key_file: str | None
    if sys.version_info < (3, 12):
        cert_file: str | None
    if sys.version_info >= (3, 12):
        def __init__(self, host: str, port: int | None=None, *, timeout: float | None=..., source_address: tuple[str, int] | None=None, context: SSLContext | None=None, blocksize: int=8192) -> None: ...
    else:
        def __init__(self, host: str, port: int | None = None, key_file: str | None = None, cert_file: str | None = None, timeout: float | None = ..., source_address: tuple[str, int] | None = None, *, context: SSLContext | None = None, check_hostname: bool | None = None, blocksize: int = 8192) -> None: ...
    def connect(self) -> None: ...
class HTTPException(Exception): ...
class NotConnected(HTTPException): ...
class InvalidURL(HTTPException): ...
class UnknownProtocol(HTTPException):
    version: str
    def __init__(self, version: str) -> None: ...
class UnknownTransferEncoding(HTTPException): ...
class UnimplementedFileMode(HTTPException): ...
class IncompleteRead(HTTPException):
    partial: bytes
    expected: int | None
    def __init__(self, partial: bytes, expected: int | None = None) -> None: ...
class ImproperConnectionState(HTTPException): ...
class CannotSendRequest(ImproperConnectionState): ...
class CannotSendHeader(ImproperConnectionState): ...
class ResponseNotReady(ImproperConnectionState): ...
class BadStatusLine(HTTPException):
    line: str
    def __init__(self, line: str) -> None: ...
class LineTooLong(HTTPException):
    def __init__(self, line_type: str) -> None: ...
class RemoteDisconnected(ConnectionResetError, BadStatusLine):
    def __init__(self, *pos: Any, **kw: Any) -> None: ...
error = HTTPException
