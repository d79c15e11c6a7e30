# The module logging.handlers, after the library reference ("logging.handlers").
import sys
import ssl
from collections.abc import Callable, Mapping
from logging import FileHandler, Handler, LogRecord
from os import PathLike
from queue import Queue, SimpleQueue
from re import Pattern
from socket import SocketKind, socket
from threading import Thread
from typing import Any, ClassVar
DEFAULT_TCP_LOGGING_PORT: int
DEFAULT_UDP_LOGGING_PORT: int
DEFAULT_HTTP_LOGGING_PORT: int
DEFAULT_SOAP_LOGGING_PORT: int
SYSLOG_UDP_PORT: int
SYSLOG_TCP_PORT: int

class BaseRotatingHandler(FileHandler):
    if sys.version_info >= (3, 9):
        errors: str | None
    namer: Callable[[str], str] | None
    rotator: Callable[[str, str], None] | None
    if sys.version_info >= (3, 9):
        def __init__(self, filename: str | PathLike[str], mode: str, encoding: str | None = None, delay: bool = False, errors: str | None = None) -> None: ...
    else:
        def __init__(self, filename: str | PathLike[str], mode: str, encoding: str | None = None, delay: bool = False) -> None: ...
    def rotation_filename(self, default_name: str) -> str: ...
    def rotate(self, source: str, dest: str) -> None: ...

class RotatingFileHandler(BaseRotatingHandler):
    maxBytes: int
    backupCount: int
    if sys.version_info >= (3, 9):
        def __init__(self, filename: str | PathLike[str], mode: str = "a", maxBytes: int = 0, backupCount: int = 0, encoding: str | None = None, delay: bool = False, errors: str | None = None) -> None: ...
    else:
        def __init__(self, filename: str | PathLike[str], mode: str = 'a', maxBytes: int = 0, backupCount: int = 0, encoding: str | None = None, delay: bool = False) -> None: ...
    def doRollover(self) -> None: ...
    def shouldRollover(self, record: LogRecord) -> int: ...

class TimedRotatingFileHandler(BaseRotatingHandler):
    when: str
    backupCount: int
    utc: bool
    atTime: Any
    interval: int
    suffix: str
    dayOfWeek: int
    rolloverAt: int
    extMatch: Pattern[str]
    if sys.version_info >= (3, 9):
        def __init__(self, filename: str | PathLike[str], when: str = "h", interval: int = 1, backupCount: int = 0, encoding: str | None = None, delay: bool = False, utc: bool = False, atTime: Any = None, errors: str | None = None) -> None: ...
    else:
        def __init__(self, filename: str | PathLike[str], when: str = 'h', interval: int = 1, backupCount: int = 0, encoding: str | None = None, delay: bool = False, utc: bool = False, atTime: Any = None) -> None: ...
    def computeRollover(self, currentTime: int) -> int: ...
    def shouldRollover(self, record: LogRecord) -> int: ...
    def getFilesToDelete(self) -> list[str]: ...
    def doRollover(self) -> None: ...

class WatchedFileHandler(FileHandler):
    dev: int
    ino: int
    if sys.version_info >= (3, 9):
        def __init__(self, filename: str | PathLike[str], mode: str = "a", encoding: str | None = None, delay: bool = False, errors: str | None = None) -> None: ...
    else:
        def __init__(self, filename: str | PathLike[str], mode: str = 'a', encoding: str | None = None, delay: bool = False) -> None: ...
    def reopenIfNeeded(self) -> None: ...

class SocketHandler(Handler):
    host: str
    port: int | None
    address: tuple[str, int] | str
    sock: socket | None
    closeOnError: bool
    retryTime: float | None
    retryStart: float
    retryFactor: float
    retryMax: float
    retryPeriod: float
    def __init__(self, host: str, port: int | None) -> None: ...
    def makeSocket(self, timeout: float = 1) -> socket: ...
    def createSocket(self) -> None: ...
    def send(self, s: bytes) -> None: ...
    def makePickle(self, record: LogRecord) -> bytes: ...

class DatagramHandler(SocketHandler):
    def __init__(self, host: str, port: int | None) -> None: ...
    def makeSocket(self) -> socket: ...
    def send(self, s: bytes) -> None: ...

class SysLogHandler(Handler):
    LOG_EMERG: int
    LOG_ALERT: int
    LOG_CRIT: int
    LOG_ERR: int
    LOG_WARNING: int
    LOG_NOTICE: int
    LOG_INFO: int
    LOG_DEBUG: int
    LOG_KERN: int
    LOG_USER: int
    LOG_MAIL: int
    LOG_DAEMON: int
    LOG_AUTH: int
    LOG_SYSLOG: int
    LOG_LPR: int
    LOG_NEWS: int
    LOG_UUCP: int
    LOG_CRON: int
    LOG_AUTHPRIV: int
    LOG_FTP: int
    if sys.version_info >= (3, 9):
        LOG_NTP: int
    if sys.version_info >= (3, 9):
        LOG_SECURITY: int
    if sys.version_info >= (3, 9):
        LOG_CONSOLE: int
    if sys.version_info >= (3, 9):
        LOG_SOLCRON: int
    LOG_LOCAL0: int
    LOG_LOCAL1: int
    LOG_LOCAL2: int
    LOG_LOCAL3: int
    LOG_LOCAL4: int
    LOG_LOCAL5: int
    LOG_LOCAL6: int
    LOG_LOCAL7: int
    priority_names: ClassVar[dict[str, int]]
    facility_names: ClassVar[dict[str, int]]
    priority_map: ClassVar[dict[str, str]]
    ident: str
    append_nul: bool
    address: tuple[str, int] | str
    unixsocket: bool
    socktype: SocketKind
    facility: int
    socket: Any
    formatter: Any
    def __init__(self, address: tuple[str, int] | str = ("localhost", 514), facility: int | str = 1, socktype: SocketKind | None = None) -> None: ...
    if sys.version_info >= (3, 11):
        def createSocket(self) -> None: ...
    def encodePriority(self, facility: int | str, priority: int | str) -> int: ...
    def mapPriority(self, levelName: str) -> str: ...

class SMTPHandler(Handler):
    mailhost: str
    mailport: int | None
    username: str | None
    password: str
    fromaddr: str
    toaddrs: list[str]
    subject: str
    secure: tuple[()] | tuple[str] | tuple[str, str] | None
    timeout: float
    def __init__(self, mailhost: str | tuple[str, int], fromaddr: str, toaddrs: str | list[str], subject: str, credentials: tuple[str, str] | None = None, secure: tuple[()] | tuple[str] | tuple[str, str] | None = None, timeout: float = 5.0) -> None: ...
    def getSubject(self, record: LogRecord) -> str: ...

class NTEventLogHandler(Handler):
    appname: str
    dllname: str
    logtype: str
    deftype: int
    typemap: dict[int, int]
    def __init__(self, appname: str, dllname: str | None = None, logtype: str = "Application") -> None: ...
    def getMessageID(self, record: LogRecord) -> int: ...
    def getEventCategory(self, record: LogRecord) -> int: ...
    def getEventType(self, record: LogRecord) -> int: ...

class HTTPHandler(Handler):
    host: str
    url: str
    method: str
    secure: bool
    credentials: tuple[str, str] | None
    context: ssl.SSLContext | None
    def __init__(self, host: str, url: str, method: str = "GET", secure: bool = False, credentials: tuple[str, str] | None = None, context: ssl.SSLContext | None = None) -> None: ...
    def mapLogRecord(self, record: LogRecord) -> Mapping[str, Any]: ...
    if sys.version_info >= (3, 9):
        def getConnection(self, host: str, secure: bool) -> Any: ...

class BufferingHandler(Handler):
    capacity: int
    buffer: list[LogRecord]
    def __init__(self, capacity: int) -> None: ...
    def shouldFlush(self, record: LogRecord) -> bool: ...

class MemoryHandler(BufferingHandler):
    flushLevel: int
    target: Handler | None
    flushOnClose: bool
    def __init__(self, capacity: int, flushLevel: int = 40, target: Handler | None = None, flushOnClose: bool = True) -> None: ...
    def setTarget(self, target: Handler | None) -> None: ...

class QueueHandler(Handler):
    queue: Queue[Any] | SimpleQueue[Any] | Any
    if sys.version_info >= (3, 12):
        listener: QueueListener | None
    def __init__(self, queue: Queue[Any] | SimpleQueue[Any] | Any) -> None: ...
    def enqueue(self, record: LogRecord) -> None: ...
    def prepare(self, record: LogRecord) -> Any: ...

class QueueListener:
    queue: Queue[Any] | SimpleQueue[Any] | Any
    handlers: tuple[Handler, ...]
    respect_handler_level: bool
    def __init__(self, queue: Queue[Any] | SimpleQueue[Any] | Any, *handlers: Handler, respect_handler_level: bool = False) -> None: ...
    def dequeue(self, block: bool) -> LogRecord: ...
    def prepare(self, record: LogRecord) -> Any: ...
    def start(self) -> None: ...
    def stop(self) -> None: ...
    def enqueue_sentinel(self) -> None: ...
    def handle(self, record: LogRecord) -> None: ...
