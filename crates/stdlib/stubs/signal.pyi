# The module signal, after the library reference ("signal") and the interpreter.
import sys
from collections.abc import Callable, Iterable
from enum import IntEnum
from types import FrameType
from typing import Any

class Signals(IntEnum):
    SIGHUP = 1
    SIGINT = 2
    SIGQUIT = 3
    SIGILL = 4
    SIGTRAP = 5
    SIGABRT = 6
    SIGIOT = 6
    SIGBUS = 7
    SIGFPE = 8
    SIGKILL = 9
    SIGUSR1 = 10
    SIGSEGV = 11
    SIGUSR2 = 12
    SIGPIPE = 13
    SIGALRM = 14
    SIGTERM = 15
    SIGSTKFLT = 16
    SIGCHLD = 17
    SIGCLD = 17
    SIGCONT = 18
    SIGSTOP = 19
    SIGTSTP = 20
    SIGTTIN = 21
    SIGTTOU = 22
    SIGURG = 23
    SIGXCPU = 24
    SIGXFSZ = 25
    SIGVTALRM = 26
    SIGPROF = 27
    SIGWINCH = 28
    SIGIO = 29
    SIGPOLL = 29
    SIGPWR = 30
    SIGSYS = 31
    SIGRTMIN = 34
    SIGRTMAX = 64
    if sys.platform == "win32":
        SIGBREAK = 21
        CTRL_C_EVENT = 0
        CTRL_BREAK_EVENT = 1
class Handlers(IntEnum):
    SIG_DFL = 0
    SIG_IGN = 1
class Sigmasks(IntEnum):
    SIG_BLOCK = 0
    SIG_UNBLOCK = 1
    SIG_SETMASK = 2

ITIMER_PROF: int
ITIMER_REAL: int
ITIMER_VIRTUAL: int
NSIG: int
SIGABRT = Signals.SIGABRT
SIGALRM = Signals.SIGALRM
SIGBUS = Signals.SIGBUS
SIGCHLD = Signals.SIGCHLD
SIGCLD = Signals.SIGCLD
SIGCONT = Signals.SIGCONT
SIGFPE = Signals.SIGFPE
SIGHUP = Signals.SIGHUP
SIGILL = Signals.SIGILL
SIGINT = Signals.SIGINT
SIGIO = Signals.SIGIO
SIGIOT = Signals.SIGIOT
SIGKILL = Signals.SIGKILL
SIGPIPE = Signals.SIGPIPE
SIGPOLL = Signals.SIGPOLL
SIGPROF = Signals.SIGPROF
SIGPWR = Signals.SIGPWR
SIGQUIT = Signals.SIGQUIT
SIGRTMAX = Signals.SIGRTMAX
SIGRTMIN = Signals.SIGRTMIN
SIGSEGV = Signals.SIGSEGV
SIGSTOP = Signals.SIGSTOP
SIGSYS = Signals.SIGSYS
SIGTERM = Signals.SIGTERM
SIGTRAP = Signals.SIGTRAP
SIGTSTP = Signals.SIGTSTP
SIGTTIN = Signals.SIGTTIN
SIGTTOU = Signals.SIGTTOU
SIGURG = Signals.SIGURG
SIGUSR1 = Signals.SIGUSR1
SIGUSR2 = Signals.SIGUSR2
SIGVTALRM = Signals.SIGVTALRM
SIGWINCH = Signals.SIGWINCH
SIGXCPU = Signals.SIGXCPU
SIGXFSZ = Signals.SIGXFSZ
SIG_BLOCK = Sigmasks.SIG_BLOCK
SIG_DFL = Handlers.SIG_DFL
SIG_IGN = Handlers.SIG_IGN
SIG_SETMASK = Sigmasks.SIG_SETMASK
SIG_UNBLOCK = Sigmasks.SIG_UNBLOCK
if sys.version_info >= (3, 11):
    SIGSTKFLT = Signals.SIGSTKFLT
if sys.platform == "win32":
    SIGBREAK = Signals.SIGBREAK
    CTRL_C_EVENT = Signals.CTRL_C_EVENT
    CTRL_BREAK_EVENT = Signals.CTRL_BREAK_EVENT

_Handler = Callable[[int, FrameType | None], Any] | int | Handlers | None

class ItimerError(OSError): ...
class struct_siginfo(tuple[int, int, int, int, int, int, int]):
    @property
    def si_signo(self) -> int: ...
    @property
    def si_code(self) -> int: ...
    @property
    def si_errno(self) -> int: ...
    @property
    def si_pid(self) -> int: ...
    @property
    def si_uid(self) -> int: ...
    @property
    def si_status(self) -> int: ...
    @property
    def si_band(self) -> int: ...
    n_unnamed_fields: int
    n_fields: int
    n_sequence_fields: int

def signal(signalnum: int, handler: _Handler) -> Callable[[int, FrameType | None], Any] | int | Handlers | None: ...
def getsignal(signalnum: int) -> Callable[[int, FrameType | None], Any] | int | Handlers | None: ...
def default_int_handler(signalnum: int, frame: FrameType | None, /) -> None: ...
def strsignal(signalnum: int, /) -> str | None: ...
def valid_signals() -> set[Signals]: ...
def raise_signal(signalnum: int, /) -> None: ...
def set_wakeup_fd(fd: int, /, *, warn_on_full_buffer: bool = True) -> int: ...
def alarm(seconds: int, /) -> int: ...
def pause() -> None: ...
def setitimer(which: int, seconds: float, interval: float = 0.0, /) -> tuple[float, float]: ...
def getitimer(which: int, /) -> tuple[float, float]: ...
def siginterrupt(signalnum: int, flag: bool, /) -> None: ...
def pthread_kill(thread_id: int, signalnum: int, /) -> None: ...
def pthread_sigmask(how: int, mask: Iterable[int]) -> set[int | Signals]: ...
def sigpending() -> set[int | Signals]: ...
def sigwait(sigset: Iterable[int]) -> int: ...
def sigwaitinfo(sigset: Iterable[int], /) -> struct_siginfo: ...
def sigtimedwait(sigset: Iterable[int], timeout: float, /) -> struct_siginfo | None: ...
if sys.version_info >= (3, 9):
    def pidfd_send_signal(pidfd: int, sig: int, siginfo: None = None, flags: int = 0, /) -> None: ...
