# The module select, after the library reference ("select").
import sys
from collections.abc import Iterable
from types import TracebackType
from typing import Any, TypeVar
from typing_extensions import Self

EPOLLERR: int
EPOLLET: int
EPOLLEXCLUSIVE: int
EPOLLHUP: int
EPOLLIN: int
EPOLLMSG: int
EPOLLONESHOT: int
EPOLLOUT: int
EPOLLPRI: int
EPOLLRDBAND: int
EPOLLRDHUP: int
EPOLLRDNORM: int
EPOLLWRBAND: int
EPOLLWRNORM: int
EPOLL_CLOEXEC: int
PIPE_BUF: int
POLLERR: int
POLLHUP: int
POLLIN: int
POLLMSG: int
POLLNVAL: int
POLLOUT: int
POLLPRI: int
POLLRDBAND: int
POLLRDHUP: int
POLLRDNORM: int
POLLWRBAND: int
POLLWRNORM: int
error = OSError
_R = TypeVar("_R")
_W = TypeVar("_W")
_X = TypeVar("_X")

class poll:
    def register(self, fd: Any, eventmask: int = ..., /) -> None: ...
    def modify(self, fd: Any, eventmask: int, /) -> None: ...
    def unregister(self, fd: Any, /) -> None: ...
    def poll(self, timeout: float | None = None, /) -> list[tuple[int, int]]: ...
def select(rlist: Iterable[_R], wlist: Iterable[_W], xlist: Iterable[_X], timeout: float | None = None, /) -> tuple[list[_R], list[_W], list[_X]]: ...
if sys.platform == "linux":
    class epoll:
        def __init__(self, sizehint: int = -1, flags: int = 0) -> None: ...
        def __enter__(self) -> Self: ...
        def __exit__(self, exc_type: type[BaseException] | None = None, exc_value: BaseException | None = None, exc_tb: TracebackType | None = None, /) -> None: ...
        @property
        def closed(self) -> bool: ...
        def close(self) -> None: ...
        def fileno(self) -> int: ...
        if sys.version_info >= (3, 10):
            def register(self, fd: Any, eventmask: int = ...) -> None: ...
        else:
            def register(self, fd: Any) -> None: ...
        def modify(self, fd: Any, eventmask: int) -> None: ...
        def unregister(self, fd: Any) -> None: ...
        def poll(self, timeout: float | None = None, maxevents: int = -1) -> list[tuple[int, int]]: ...
        @classmethod
        def fromfd(cls, fd: int, /) -> epoll: ...
if sys.platform != "linux" and sys.platform != "win32":
    class kevent:
        data: Any
        fflags: int
        filter: int
        flags: int
        ident: int
        udata: Any
        def __init__(self, ident: Any, filter: int = ..., flags: int = ..., fflags: int = ..., data: Any = ..., udata: Any = ...) -> None: ...
    class kqueue:
        closed: bool
        def __init__(self) -> None: ...
        def close(self) -> None: ...
        def control(self, changelist: Iterable[kevent] | None, maxevents: int, timeout: float | None = None, /) -> list[kevent]: ...
        def fileno(self) -> int: ...
        @classmethod
        def fromfd(cls, fd: Any, /) -> kqueue: ...
    KQ_EV_ADD: int
    KQ_EV_CLEAR: int
    KQ_EV_DELETE: int
    KQ_EV_DISABLE: int
    KQ_EV_ENABLE: int
    KQ_EV_EOF: int
    KQ_EV_ERROR: int
    KQ_EV_FLAG1: int
    KQ_EV_ONESHOT: int
    KQ_EV_SYSFLAGS: int
    KQ_FILTER_AIO: int
    KQ_FILTER_PROC: int
    KQ_FILTER_READ: int
    KQ_FILTER_SIGNAL: int
    KQ_FILTER_TIMER: int
    KQ_FILTER_VNODE: int
    KQ_FILTER_WRITE: int
    KQ_NOTE_ATTRIB: int
    KQ_NOTE_CHILD: int
    KQ_NOTE_DELETE: int
    KQ_NOTE_EXEC: int
    KQ_NOTE_EXIT: int
    KQ_NOTE_EXTEND: int
    KQ_NOTE_FORK: int
    KQ_NOTE_LINK: int
    KQ_NOTE_LOWAT: int
    KQ_NOTE_PCTRLMASK: int
    KQ_NOTE_PDATAMASK: int
    KQ_NOTE_RENAME: int
    KQ_NOTE_REVOKE: int
    KQ_NOTE_TRACK: int
    KQ_NOTE_TRACKERR: int
    KQ_NOTE_WRITE: int
