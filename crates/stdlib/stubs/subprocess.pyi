# Standard library reference, "subprocess — Subprocess management".
import sys
from collections.abc import Callable, Iterable, Mapping, Sequence
from os import PathLike
from types import TracebackType
from typing import IO, Any, AnyStr, Generic, Literal, overload
from typing_extensions import Buffer, Self

_Path = str | bytes | PathLike[str] | PathLike[bytes]
_Command = _Path | Sequence[_Path]
_File = int | IO[Any] | None
_Environment = Mapping[str, _Path] | Mapping[bytes, _Path]

PIPE: int
STDOUT: int
DEVNULL: int

class SubprocessError(Exception): ...

class CalledProcessError(SubprocessError):
    returncode: int
    cmd: Any
    # Of the same kind as what the process wrote: text, bytes, or nothing.
    output: Any
    stdout: Any
    stderr: Any
    def __init__(self, returncode: int, cmd: Any, output: Any = None, stderr: Any = None) -> None: ...

class TimeoutExpired(SubprocessError):
    cmd: Any
    timeout: float
    output: Any
    stdout: Any
    stderr: Any
    def __init__(self, cmd: Any, timeout: float, output: Any = None, stderr: Any = None) -> None: ...

class CompletedProcess(Generic[AnyStr]):
    args: Any
    returncode: int
    # Nothing where it was not captured; then it is not asked for either.
    stdout: AnyStr
    stderr: AnyStr
    def __init__(self, args: Any, returncode: int, stdout: AnyStr | None = None, stderr: AnyStr | None = None) -> None: ...
    def check_returncode(self) -> None: ...

@overload
def run(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *, input: str | None = None,
    capture_output: bool = False, timeout: float | None = None, check: bool = False, encoding: str | None = None, errors: str | None = None,
    text: Literal[True], user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None,
    umask: int = -1, pipesize: int = -1, process_group: int | None = None,
) -> CompletedProcess[str]: ...
@overload
def run(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *, input: str | None = None,
    capture_output: bool = False, timeout: float | None = None, check: bool = False, encoding: str, errors: str | None = None,
    text: bool | None = None, user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None,
    umask: int = -1, pipesize: int = -1, process_group: int | None = None,
) -> CompletedProcess[str]: ...
@overload
def run(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, *, universal_newlines: Literal[True], startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), input: str | None = None,
    capture_output: bool = False, timeout: float | None = None, check: bool = False, encoding: str | None = None, errors: str | None = None,
    text: bool | None = None, user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None,
    umask: int = -1, pipesize: int = -1, process_group: int | None = None,
) -> CompletedProcess[str]: ...
@overload
def run(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: Literal[False] | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *,
    input: Buffer | None = None,
    capture_output: bool = False, timeout: float | None = None, check: bool = False, encoding: None = None, errors: None = None,
    text: Literal[False] | None = None, user: str | int | None = None, group: str | int | None = None,
    extra_groups: Iterable[str | int] | None = None, umask: int = -1, pipesize: int = -1, process_group: int | None = None,
) -> CompletedProcess[bytes]: ...
@overload
def run(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *, input: Any = None,
    capture_output: bool = False, timeout: float | None = None, check: bool = False, encoding: str | None = None, errors: str | None = None,
    text: bool | None = None, user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None,
    umask: int = -1, pipesize: int = -1, process_group: int | None = None,
) -> CompletedProcess[Any]: ...

def call(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *, timeout: float | None = None, **kwargs: Any,
) -> int: ...
def check_call(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None, stderr: _File = None,
    preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None, creationflags: int = 0,
    restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *, timeout: float | None = None, **kwargs: Any,
) -> int: ...
@overload
def check_output(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stderr: _File = None, *, text: Literal[True],
    timeout: float | None = None, shell: bool = False, cwd: _Path | None = None, env: _Environment | None = None, **kwargs: Any,
) -> str: ...
@overload
def check_output(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stderr: _File = None, *, encoding: str,
    timeout: float | None = None, shell: bool = False, cwd: _Path | None = None, env: _Environment | None = None, **kwargs: Any,
) -> str: ...
@overload
def check_output(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stderr: _File = None, *,
    universal_newlines: Literal[True], timeout: float | None = None, shell: bool = False, cwd: _Path | None = None,
    env: _Environment | None = None, **kwargs: Any,
) -> str: ...
@overload
def check_output(
    args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stderr: _File = None, *,
    timeout: float | None = None, shell: bool = False, cwd: _Path | None = None, env: _Environment | None = None,
    universal_newlines: Literal[False] | None = ..., text: Literal[False] | None = ..., encoding: None = ...,
    input: Buffer | None = ..., close_fds: bool = True, preexec_fn: Callable[[], Any] | None = None,
    creationflags: int = 0, startupinfo: Any = None, start_new_session: bool = False,
) -> bytes: ...
@overload
def check_output(args: _Command, *popenargs: Any, timeout: float | None = None, **kwargs: Any) -> Any: ...

class Popen(Generic[AnyStr]):
    args: _Command
    stdin: IO[AnyStr] | None
    stdout: IO[AnyStr] | None
    stderr: IO[AnyStr] | None
    pid: int
    # Nothing while the process runs; `wait` and `poll` tell.
    returncode: int | Any
    universal_newlines: bool
    encoding: str | None
    errors: str | None
    text_mode: Any
    pipesize: int
    process_group: int | None
    @overload
    def __init__(
        self: Popen[str], args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None,
        stderr: _File = None, preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False,
        cwd: _Path | None = None, env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None,
        creationflags: int = 0, restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *,
        user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None, encoding: str | None = None,
        errors: str | None = None, text: Literal[True], umask: int = -1, pipesize: int = -1, process_group: int | None = None,
    ) -> None: ...
    @overload
    def __init__(
        self: Popen[str], args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None,
        stderr: _File = None, preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False,
        cwd: _Path | None = None, env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None,
        creationflags: int = 0, restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *,
        user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None, encoding: str,
        errors: str | None = None, text: bool | None = None, umask: int = -1, pipesize: int = -1, process_group: int | None = None,
    ) -> None: ...
    @overload
    def __init__(
        self: Popen[str], args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None,
        stderr: _File = None, preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False,
        cwd: _Path | None = None, env: _Environment | None = None, *, universal_newlines: Literal[True], startupinfo: Any = None,
        creationflags: int = 0, restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (),
        user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None, encoding: str | None = None,
        errors: str | None = None, text: bool | None = None, umask: int = -1, pipesize: int = -1, process_group: int | None = None,
    ) -> None: ...
    @overload
    def __init__(
        self: Popen[bytes], args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None,
        stderr: _File = None, preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False,
        cwd: _Path | None = None, env: _Environment | None = None, universal_newlines: Literal[False] | None = None, startupinfo: Any = None,
        creationflags: int = 0, restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *,
        user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None, encoding: None = None,
        errors: None = None, text: Literal[False] | None = None, umask: int = -1, pipesize: int = -1, process_group: int | None = None,
    ) -> None: ...
    @overload
    def __init__(
        self: Popen[Any], args: _Command, bufsize: int = -1, executable: _Path | None = None, stdin: _File = None, stdout: _File = None,
        stderr: _File = None, preexec_fn: Callable[[], Any] | None = None, close_fds: bool = True, shell: bool = False,
        cwd: _Path | None = None, env: _Environment | None = None, universal_newlines: bool | None = None, startupinfo: Any = None,
        creationflags: int = 0, restore_signals: bool = True, start_new_session: bool = False, pass_fds: Iterable[int] = (), *,
        user: str | int | None = None, group: str | int | None = None, extra_groups: Iterable[str | int] | None = None, encoding: str | None = None,
        errors: str | None = None, text: bool | None = None, umask: int = -1, pipesize: int = -1, process_group: int | None = None,
    ) -> None: ...
    def __enter__(self) -> Self: ...
    def __exit__(
        self, exc_type: type[BaseException] | None, value: BaseException | None, traceback: TracebackType | None, /,
    ) -> None: ...
    def poll(self) -> int | None: ...
    def wait(self, timeout: float | None = None) -> int: ...
    def communicate(self, input: AnyStr | None = None, timeout: float | None = None) -> tuple[AnyStr, AnyStr]: ...
    def send_signal(self, sig: int) -> None: ...
    def terminate(self) -> None: ...
    def kill(self) -> None: ...

if sys.version_info >= (3, 11):
    def getstatusoutput(cmd: _Command, *, encoding: str | None = None, errors: str | None = None) -> tuple[int, str]: ...
    def getoutput(cmd: _Command, *, encoding: str | None = None, errors: str | None = None) -> str: ...
else:
    def getstatusoutput(cmd: _Command) -> tuple[int, str]: ...
    def getoutput(cmd: _Command) -> str: ...
def list2cmdline(seq: Iterable[_Path]) -> str: ...

if sys.platform == "win32":
    CREATE_NEW_CONSOLE: int
    CREATE_NEW_PROCESS_GROUP: int
    CREATE_NO_WINDOW: int
    CREATE_DEFAULT_ERROR_MODE: int
    CREATE_BREAKAWAY_FROM_JOB: int
    DETACHED_PROCESS: int
    ABOVE_NORMAL_PRIORITY_CLASS: int
    BELOW_NORMAL_PRIORITY_CLASS: int
    HIGH_PRIORITY_CLASS: int
    IDLE_PRIORITY_CLASS: int
    NORMAL_PRIORITY_CLASS: int
    REALTIME_PRIORITY_CLASS: int
    STARTF_USESHOWWINDOW: int
    STARTF_USESTDHANDLES: int
    STD_ERROR_HANDLE: int
    STD_INPUT_HANDLE: int
    STD_OUTPUT_HANDLE: int
    SW_HIDE: int
    class STARTUPINFO:
        dwFlags: int
        hStdInput: Any
        hStdOutput: Any
        hStdError: Any
        wShowWindow: int
        lpAttributeList: Mapping[str, Any]
        def __init__(
            self, *, dwFlags: int = 0, hStdInput: Any = None, hStdOutput: Any = None, hStdError: Any = None, wShowWindow: int = 0,
            lpAttributeList: Mapping[str, Any] | None = None,
        ) -> None: ...
        def copy(self) -> STARTUPINFO: ...
