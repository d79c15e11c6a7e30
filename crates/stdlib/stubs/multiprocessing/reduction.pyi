# The module multiprocessing.reduction, after its source.
import pickle
from abc import ABCMeta
from collections.abc import Callable
from multiprocessing import connection
from multiprocessing.context import BaseContext
from socket import socket
from typing import IO, Any
HAVE_SEND_HANDLE: bool
ACKNOWLEDGE: bool

class ForkingPickler(pickle.Pickler):
    dispatch_table: Any
    def __init__(self, *args: Any) -> None: ...
    @classmethod
    def register(cls, type: type, reduce: Callable[[Any], Any]) -> None: ...
    @classmethod
    def dumps(cls, obj: Any, protocol: int | None = None) -> memoryview: ...
    loads: Callable[..., Any]
register: Callable[[type, Callable[[Any], Any]], None]
def dump(obj: Any, file: IO[bytes], protocol: int | None = None) -> None: ...
def sendfds(sock: socket, fds: list[int]) -> None: ...
def recvfds(sock: socket, size: int) -> list[int]: ...
def send_handle(conn: Any, handle: int, destination_pid: int) -> None: ...
def recv_handle(conn: Any) -> int: ...
def DupFd(fd: int) -> Any: ...
class AbstractReducer(metaclass=ABCMeta):
    ForkingPickler: Any
    register: Any
    dump: Any
    send_handle: Any
    recv_handle: Any
    DupFd: Any
    def __init__(self, *args: Any) -> None: ...
