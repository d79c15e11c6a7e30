# The module sqlite3, after the library reference ("sqlite3"); constants from the interpreters.
import sys
from collections.abc import Callable, Generator, Iterable, Iterator, Mapping, Sequence
from datetime import date, datetime, time
from os import PathLike
from types import TracebackType
from typing import Any, Literal, SupportsIndex, TypeVar, overload
from typing_extensions import Buffer, Self

_T = TypeVar("_T")
_Value = str | bytes | int | float | None
_Parameters = Sequence[Any] | Mapping[str, Any]
_Isolation = Literal["DEFERRED", "EXCLUSIVE", "IMMEDIATE"] | None

apilevel: str
paramstyle: str
threadsafety: int
adapters: dict[Any, Any]
converters: dict[Any, Any]
version: str
version_info: tuple[int, ...]
sqlite_version: str
sqlite_version_info: tuple[int, ...]
Binary = memoryview
Date = date
Time = time
Timestamp = datetime
def DateFromTicks(ticks: float) -> date: ...
def TimeFromTicks(ticks: float) -> time: ...
def TimestampFromTicks(ticks: float) -> datetime: ...

PARSE_COLNAMES: int
PARSE_DECLTYPES: int
SQLITE_ALTER_TABLE: int
SQLITE_ANALYZE: int
SQLITE_ATTACH: int
SQLITE_CREATE_INDEX: int
SQLITE_CREATE_TABLE: int
SQLITE_CREATE_TEMP_INDEX: int
SQLITE_CREATE_TEMP_TABLE: int
SQLITE_CREATE_TEMP_TRIGGER: int
SQLITE_CREATE_TEMP_VIEW: int
SQLITE_CREATE_TRIGGER: int
SQLITE_CREATE_VIEW: int
SQLITE_CREATE_VTABLE: int
SQLITE_DELETE: int
SQLITE_DENY: int
SQLITE_DETACH: int
SQLITE_DONE: int
SQLITE_DROP_INDEX: int
SQLITE_DROP_TABLE: int
SQLITE_DROP_TEMP_INDEX: int
SQLITE_DROP_TEMP_TABLE: int
SQLITE_DROP_TEMP_TRIGGER: int
SQLITE_DROP_TEMP_VIEW: int
SQLITE_DROP_TRIGGER: int
SQLITE_DROP_VIEW: int
SQLITE_DROP_VTABLE: int
SQLITE_FUNCTION: int
SQLITE_IGNORE: int
SQLITE_INSERT: int
SQLITE_OK: int
SQLITE_PRAGMA: int
SQLITE_READ: int
SQLITE_RECURSIVE: int
SQLITE_REINDEX: int
SQLITE_SAVEPOINT: int
SQLITE_SELECT: int
SQLITE_TRANSACTION: int
SQLITE_UPDATE: int
if sys.version_info >= (3, 11):
    SQLITE_ABORT: int
    SQLITE_ABORT_ROLLBACK: int
    SQLITE_AUTH: int
    SQLITE_AUTH_USER: int
    SQLITE_BUSY: int
    SQLITE_BUSY_RECOVERY: int
    SQLITE_BUSY_SNAPSHOT: int
    SQLITE_BUSY_TIMEOUT: int
    SQLITE_CANTOPEN: int
    SQLITE_CANTOPEN_CONVPATH: int
    SQLITE_CANTOPEN_DIRTYWAL: int
    SQLITE_CANTOPEN_FULLPATH: int
    SQLITE_CANTOPEN_ISDIR: int
    SQLITE_CANTOPEN_NOTEMPDIR: int
    SQLITE_CANTOPEN_SYMLINK: int
    SQLITE_CONSTRAINT: int
    SQLITE_CONSTRAINT_CHECK: int
    SQLITE_CONSTRAINT_COMMITHOOK: int
    SQLITE_CONSTRAINT_FOREIGNKEY: int
    SQLITE_CONSTRAINT_FUNCTION: int
    SQLITE_CONSTRAINT_NOTNULL: int
    SQLITE_CONSTRAINT_PINNED: int
    SQLITE_CONSTRAINT_PRIMARYKEY: int
    SQLITE_CONSTRAINT_ROWID: int
    SQLITE_CONSTRAINT_TRIGGER: int
    SQLITE_CONSTRAINT_UNIQUE: int
    SQLITE_CONSTRAINT_VTAB: int
    SQLITE_CORRUPT: int
    SQLITE_CORRUPT_INDEX: int
    SQLITE_CORRUPT_SEQUENCE: int
    SQLITE_CORRUPT_VTAB: int
    SQLITE_EMPTY: int
    SQLITE_ERROR: int
    SQLITE_ERROR_MISSING_COLLSEQ: int
    SQLITE_ERROR_RETRY: int
    SQLITE_ERROR_SNAPSHOT: int
    SQLITE_FORMAT: int
    SQLITE_FULL: int
    SQLITE_INTERNAL: int
    SQLITE_INTERRUPT: int
    SQLITE_IOERR: int
    SQLITE_IOERR_ACCESS: int
    SQLITE_IOERR_AUTH: int
    SQLITE_IOERR_BEGIN_ATOMIC: int
    SQLITE_IOERR_BLOCKED: int
    SQLITE_IOERR_CHECKRESERVEDLOCK: int
    SQLITE_IOERR_CLOSE: int
    SQLITE_IOERR_COMMIT_ATOMIC: int
    SQLITE_IOERR_CONVPATH: int
    SQLITE_IOERR_CORRUPTFS: int
    SQLITE_IOERR_DATA: int
    SQLITE_IOERR_DELETE: int
    SQLITE_IOERR_DELETE_NOENT: int
    SQLITE_IOERR_DIR_CLOSE: int
    SQLITE_IOERR_DIR_FSYNC: int
    SQLITE_IOERR_FSTAT: int
    SQLITE_IOERR_FSYNC: int
    SQLITE_IOERR_GETTEMPPATH: int
    SQLITE_IOERR_LOCK: int
    SQLITE_IOERR_MMAP: int
    SQLITE_IOERR_NOMEM: int
    SQLITE_IOERR_RDLOCK: int
    SQLITE_IOERR_READ: int
    SQLITE_IOERR_ROLLBACK_ATOMIC: int
    SQLITE_IOERR_SEEK: int
    SQLITE_IOERR_SHMLOCK: int
    SQLITE_IOERR_SHMMAP: int
    SQLITE_IOERR_SHMOPEN: int
    SQLITE_IOERR_SHMSIZE: int
    SQLITE_IOERR_SHORT_READ: int
    SQLITE_IOERR_TRUNCATE: int
    SQLITE_IOERR_UNLOCK: int
    SQLITE_IOERR_VNODE: int
    SQLITE_IOERR_WRITE: int
    SQLITE_LIMIT_ATTACHED: int
    SQLITE_LIMIT_COLUMN: int
    SQLITE_LIMIT_COMPOUND_SELECT: int
    SQLITE_LIMIT_EXPR_DEPTH: int
    SQLITE_LIMIT_FUNCTION_ARG: int
    SQLITE_LIMIT_LENGTH: int
    SQLITE_LIMIT_LIKE_PATTERN_LENGTH: int
    SQLITE_LIMIT_SQL_LENGTH: int
    SQLITE_LIMIT_TRIGGER_DEPTH: int
    SQLITE_LIMIT_VARIABLE_NUMBER: int
    SQLITE_LIMIT_VDBE_OP: int
    SQLITE_LIMIT_WORKER_THREADS: int
    SQLITE_LOCKED: int
    SQLITE_LOCKED_SHAREDCACHE: int
    SQLITE_LOCKED_VTAB: int
    SQLITE_MISMATCH: int
    SQLITE_MISUSE: int
    SQLITE_NOLFS: int
    SQLITE_NOMEM: int
    SQLITE_NOTADB: int
    SQLITE_NOTFOUND: int
    SQLITE_NOTICE: int
    SQLITE_NOTICE_RECOVER_ROLLBACK: int
    SQLITE_NOTICE_RECOVER_WAL: int
    SQLITE_OK_LOAD_PERMANENTLY: int
    SQLITE_OK_SYMLINK: int
    SQLITE_PERM: int
    SQLITE_PROTOCOL: int
    SQLITE_RANGE: int
    SQLITE_READONLY: int
    SQLITE_READONLY_CANTINIT: int
    SQLITE_READONLY_CANTLOCK: int
    SQLITE_READONLY_DBMOVED: int
    SQLITE_READONLY_DIRECTORY: int
    SQLITE_READONLY_RECOVERY: int
    SQLITE_READONLY_ROLLBACK: int
    SQLITE_ROW: int
    SQLITE_SCHEMA: int
    SQLITE_TOOBIG: int
    SQLITE_WARNING: int
    SQLITE_WARNING_AUTOINDEX: int
if sys.version_info >= (3, 12):
    LEGACY_TRANSACTION_CONTROL: int
    SQLITE_DBCONFIG_DEFENSIVE: int
    SQLITE_DBCONFIG_DQS_DDL: int
    SQLITE_DBCONFIG_DQS_DML: int
    SQLITE_DBCONFIG_ENABLE_FKEY: int
    SQLITE_DBCONFIG_ENABLE_FTS3_TOKENIZER: int
    SQLITE_DBCONFIG_ENABLE_LOAD_EXTENSION: int
    SQLITE_DBCONFIG_ENABLE_QPSG: int
    SQLITE_DBCONFIG_ENABLE_TRIGGER: int
    SQLITE_DBCONFIG_ENABLE_VIEW: int
    SQLITE_DBCONFIG_LEGACY_ALTER_TABLE: int
    SQLITE_DBCONFIG_LEGACY_FILE_FORMAT: int
    SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE: int
    SQLITE_DBCONFIG_RESET_DATABASE: int
    SQLITE_DBCONFIG_TRIGGER_EQP: int
    SQLITE_DBCONFIG_TRUSTED_SCHEMA: int
    SQLITE_DBCONFIG_WRITABLE_SCHEMA: int

class Warning(Exception): ...
class Error(Exception):
    if sys.version_info >= (3, 11):
        sqlite_errorcode: int
        sqlite_errorname: str
class InterfaceError(Error): ...
class DatabaseError(Error): ...
class DataError(DatabaseError): ...
class OperationalError(DatabaseError): ...
class IntegrityError(DatabaseError): ...
class InternalError(DatabaseError): ...
class ProgrammingError(DatabaseError): ...
class NotSupportedError(DatabaseError): ...
if sys.version_info < (3, 10):
    OptimizedUnicode = str
if sys.version_info < (3, 12):
    def enable_shared_cache(do_enable: int) -> None: ...

def adapt(obj: Any, proto: Any = ..., alt: Any = ..., /) -> Any: ...
def complete_statement(statement: str) -> bool: ...
def enable_callback_tracebacks(enable: bool, /) -> None: ...
def register_adapter(type: type[_T], adapter: Callable[[_T], _Value], /) -> None: ...
def register_converter(typename: str, converter: Callable[[bytes], Any], /) -> None: ...
def connect(
    database: str | bytes | PathLike[str] | PathLike[bytes], timeout: float = 5.0, detect_types: int = 0,
    isolation_level: _Isolation = "DEFERRED", check_same_thread: bool = True, factory: Any = ...,
    cached_statements: int = 128, uri: bool = False, *, autocommit: bool | int = ...,
) -> Connection: ...

class PrepareProtocol: ...

class Row(Sequence[Any]):
    def __new__(cls, cursor: Cursor, data: tuple[Any, ...], /) -> Self: ...
    def keys(self) -> list[str]: ...
    @overload
    def __getitem__(self, key: int | str, /) -> Any: ...
    @overload
    def __getitem__(self, key: slice, /) -> tuple[Any, ...]: ...
    def __hash__(self) -> int: ...
    def __iter__(self) -> Iterator[Any]: ...
    def __len__(self) -> int: ...
    def __eq__(self, value: object, /) -> bool: ...
    def __ne__(self, value: object, /) -> bool: ...

class Cursor:
    @property
    def connection(self) -> Connection: ...
    @property
    def description(self) -> tuple[tuple[str, None, None, None, None, None, None], ...] | None: ...
    @property
    def lastrowid(self) -> int | None: ...
    @property
    def rowcount(self) -> int: ...
    arraysize: int
    row_factory: Callable[[Cursor, Row], object] | None
    def __init__(self, cursor: Connection, /) -> None: ...
    def close(self) -> None: ...
    def execute(self, sql: str, parameters: _Parameters = ..., /) -> Self: ...
    def executemany(self, sql: str, seq_of_parameters: Iterable[_Parameters], /) -> Self: ...
    def executescript(self, sql_script: str, /) -> Cursor: ...
    def fetchall(self) -> list[Any]: ...
    def fetchmany(self, size: int | None = 1) -> list[Any]: ...
    def fetchone(self) -> Any: ...
    def setinputsizes(self, sizes: object, /) -> None: ...
    def setoutputsize(self, size: object, column: object = None, /) -> None: ...
    def __iter__(self) -> Self: ...
    def __next__(self) -> Any: ...

class Connection:
    @property
    def DataError(self) -> type[DataError]: ...
    @property
    def DatabaseError(self) -> type[DatabaseError]: ...
    @property
    def Error(self) -> type[Error]: ...
    @property
    def IntegrityError(self) -> type[IntegrityError]: ...
    @property
    def InterfaceError(self) -> type[InterfaceError]: ...
    @property
    def InternalError(self) -> type[InternalError]: ...
    @property
    def NotSupportedError(self) -> type[NotSupportedError]: ...
    @property
    def OperationalError(self) -> type[OperationalError]: ...
    @property
    def ProgrammingError(self) -> type[ProgrammingError]: ...
    @property
    def Warning(self) -> type[Warning]: ...
    @property
    def in_transaction(self) -> bool: ...
    @property
    def total_changes(self) -> int: ...
    isolation_level: str | None
    row_factory: Any
    text_factory: Any
    if sys.version_info >= (3, 12):
        autocommit: bool | int
    def __init__(
        self, database: str | bytes | PathLike[str] | PathLike[bytes], timeout: float = ..., detect_types: int = ...,
        isolation_level: str | None = ..., check_same_thread: bool = ..., factory: Any = ..., cached_statements: int = ...,
        uri: bool = ...,
    ) -> None: ...
    def close(self) -> None: ...
    def commit(self) -> None: ...
    def rollback(self) -> None: ...
    @overload
    def cursor(self, factory: None = None) -> Cursor: ...
    @overload
    def cursor(self, factory: Callable[[Connection], _T]) -> _T: ...
    def execute(self, sql: str, parameters: _Parameters = ..., /) -> Cursor: ...
    def executemany(self, sql: str, parameters: Iterable[_Parameters], /) -> Cursor: ...
    def executescript(self, sql_script: str, /) -> Cursor: ...
    def create_function(
        self, name: str, narg: int, func: Callable[..., _Value] | None, *, deterministic: bool = False
    ) -> None: ...
    def create_aggregate(self, name: str, n_arg: int, aggregate_class: Callable[[], Any] | None) -> None: ...
    def create_collation(self, name: str, callback: Callable[[str, str], int] | None, /) -> None: ...
    def enable_load_extension(self, enable: bool, /) -> None: ...
    if sys.version_info >= (3, 12):
        def load_extension(self, name: str, /, *, entrypoint: str | None = None) -> None: ...
    else:
        def load_extension(self, name: str, /) -> None: ...
    def interrupt(self) -> None: ...
    if sys.version_info >= (3, 13):
        def iterdump(self, *, filter: str | None = None) -> Generator[str, None, None]: ...
    else:
        def iterdump(self) -> Generator[str, None, None]: ...
    def set_authorizer(self, authorizer_callback: Callable[..., int] | None) -> None: ...
    def set_progress_handler(self, progress_handler: Callable[[], int | None] | None, n: int) -> None: ...
    def set_trace_callback(self, trace_callback: Callable[[str], object] | None) -> None: ...
    def backup(
        self, target: Connection, *, pages: int = -1, progress: Callable[[int, int, int], object] | None = None,
        name: str = "main", sleep: float = 0.25,
    ) -> None: ...
    if sys.version_info >= (3, 11):
        def blobopen(self, table: str, column: str, row: int, /, *, readonly: bool = False, name: str = "main") -> Blob: ...
        def create_window_function(self, name: str, num_params: int, aggregate_class: Callable[[], Any] | None, /) -> None: ...
        def serialize(self, *, name: str = "main") -> bytes: ...
        def deserialize(self, data: Buffer, /, *, name: str = "main") -> None: ...
        def getlimit(self, category: int, /) -> int: ...
        def setlimit(self, category: int, limit: int, /) -> int: ...
    if sys.version_info >= (3, 12):
        def getconfig(self, op: int, /) -> bool: ...
        def setconfig(self, op: int, enable: bool = True, /) -> None: ...
    def __call__(self, sql: str, /) -> Any: ...
    def __enter__(self) -> Self: ...
    def __exit__(
        self, type: type[BaseException] | None, value: BaseException | None, traceback: TracebackType | None, /
    ) -> bool: ...
if sys.version_info >= (3, 11):
    class Blob:
        def close(self) -> None: ...
        def read(self, length: int = -1, /) -> bytes: ...
        def write(self, data: Buffer, /) -> None: ...
        def tell(self) -> int: ...
        def seek(self, offset: int, origin: int = 0, /) -> None: ...
        def __len__(self) -> int: ...
        def __enter__(self) -> Self: ...
        def __exit__(self, type: object, val: object, tb: object, /) -> None: ...
        def __getitem__(self, key: SupportsIndex | slice, /) -> int | bytes: ...
        def __setitem__(self, key: SupportsIndex | slice, value: Any, /) -> None: ...
        def __delitem__(self, key: SupportsIndex | slice, /) -> None: ...
