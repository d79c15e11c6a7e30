# The module pickle, after the library reference ("pickle").
import sys
from collections.abc import Callable, Iterable, Mapping
from typing import Any, ClassVar, Protocol
from typing_extensions import Buffer

class _Reads(Protocol):
    def read(self, n: int, /) -> bytes: ...
    def readline(self) -> bytes: ...
class _Writes(Protocol):
    def write(self, data: bytes, /) -> object: ...

ADDITEMS: bytes
APPEND: bytes
APPENDS: bytes
BINBYTES: bytes
BINBYTES8: bytes
BINFLOAT: bytes
BINGET: bytes
BININT: bytes
BININT1: bytes
BININT2: bytes
BINPERSID: bytes
BINPUT: bytes
BINSTRING: bytes
BINUNICODE: bytes
BINUNICODE8: bytes
BUILD: bytes
BYTEARRAY8: bytes
DEFAULT_PROTOCOL: int
DICT: bytes
DUP: bytes
EMPTY_DICT: bytes
EMPTY_LIST: bytes
EMPTY_SET: bytes
EMPTY_TUPLE: bytes
EXT1: bytes
EXT2: bytes
EXT4: bytes
FALSE: bytes
FLOAT: bytes
FRAME: bytes
FROZENSET: bytes
GET: bytes
GLOBAL: bytes
HIGHEST_PROTOCOL: int
INST: bytes
INT: bytes
LIST: bytes
LONG: bytes
LONG1: bytes
LONG4: bytes
LONG_BINGET: bytes
LONG_BINPUT: bytes
MARK: bytes
MEMOIZE: bytes
NEWFALSE: bytes
NEWOBJ: bytes
NEWOBJ_EX: bytes
NEWTRUE: bytes
NEXT_BUFFER: bytes
NONE: bytes
OBJ: bytes
PERSID: bytes
POP: bytes
POP_MARK: bytes
PROTO: bytes
PUT: bytes
READONLY_BUFFER: bytes
REDUCE: bytes
SETITEM: bytes
SETITEMS: bytes
SHORT_BINBYTES: bytes
SHORT_BINSTRING: bytes
SHORT_BINUNICODE: bytes
STACK_GLOBAL: bytes
STOP: bytes
STRING: bytes
TRUE: bytes
TUPLE: bytes
TUPLE1: bytes
TUPLE2: bytes
TUPLE3: bytes
UNICODE: bytes
format_version: str
maxsize: int
bytes_types: tuple[type[Any], ...]

class PickleError(Exception): ...
class PicklingError(PickleError): ...
class UnpicklingError(PickleError): ...
class PickleBuffer:
    def __init__(self, buffer: Buffer) -> None: ...
    def raw(self) -> memoryview: ...
    def release(self) -> None: ...

class Pickler:
    fast: bool
    dispatch_table: Mapping[type, Callable[[Any], str | tuple[Any, ...]]]
    bin: bool
    def __init__(self, file: _Writes, protocol: int | None = None, fix_imports: bool = True, buffer_callback: Callable[[PickleBuffer], Any] | None = None) -> None: ...
    def dump(self, obj: Any, /) -> None: ...
    def clear_memo(self) -> None: ...
    def persistent_id(self, obj: Any, /) -> Any: ...
    def reducer_override(self, obj: Any, /) -> Any: ...
    memo: Any

class Unpickler:
    def __init__(self, file: _Reads, *, fix_imports: bool = True, encoding: str = "ASCII", errors: str = "strict", buffers: Iterable[Any] | None = ()) -> None: ...
    def load(self) -> Any: ...
    def find_class(self, module_name: str, global_name: str, /) -> Any: ...
    def persistent_load(self, pid: Any, /) -> Any: ...
    memo: Any

def dump(obj: Any, file: _Writes, protocol: int | None = None, *, fix_imports: bool = True, buffer_callback: Callable[[PickleBuffer], Any] | None = None) -> None: ...
def dumps(obj: Any, protocol: int | None = None, *, fix_imports: bool = True, buffer_callback: Callable[[PickleBuffer], Any] | None = None) -> bytes: ...
def load(file: _Reads, *, fix_imports: bool = True, encoding: str = "ASCII", errors: str = "strict", buffers: Iterable[Any] | None = ()) -> Any: ...
def loads(data: Buffer, /, *, fix_imports: bool = True, encoding: str = "ASCII", errors: str = "strict", buffers: Iterable[Any] | None = ()) -> Any: ...
def encode_long(x: int) -> bytes: ...
def decode_long(data: Iterable[int] | Buffer) -> int: ...
