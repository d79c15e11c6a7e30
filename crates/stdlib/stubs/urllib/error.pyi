# The module urllib.error, after the library reference ("urllib.error").
from email.message import Message
from typing import IO, Any
from urllib.response import addinfourl
class URLError(OSError):
    reason: str | BaseException
    filename: str | None
    def __init__(self, reason: str | BaseException, filename: str | None = None) -> None: ...
class HTTPError(URLError, addinfourl):
    code: int
    msg: str
    hdrs: Message
    fp: IO[bytes]
    filename: str
    @property
    def reason(self) -> str: ...
    @property
    def headers(self) -> Message: ...
    @headers.setter
    def headers(self, headers: Message) -> None: ...
    def __init__(self, url: str, code: int, msg: str, hdrs: Message, fp: IO[bytes] | None) -> None: ...
class ContentTooShortError(URLError):
    content: tuple[str, Message]
    def __init__(self, message: str, content: tuple[str, Message]) -> None: ...
