# The module asyncio.subprocess, after the library reference ("asyncio", "Subprocesses").
import sys
import subprocess
from asyncio.events import AbstractEventLoop
from asyncio.protocols import SubprocessProtocol
from asyncio.streams import FlowControlMixin, StreamReader, StreamWriter
from asyncio.transports import BaseTransport, SubprocessTransport
from os import PathLike
from typing_extensions import Buffer
from typing import IO, Any
PIPE: int
STDOUT: int
DEVNULL: int

class SubprocessStreamProtocol(FlowControlMixin, SubprocessProtocol):
    stdin: StreamWriter | None
    stdout: StreamReader | None
    stderr: StreamReader | None
    def __init__(self, limit: int, loop: AbstractEventLoop) -> None: ...

class Process:
    stdin: StreamWriter | None
    stdout: StreamReader | None
    stderr: StreamReader | None
    pid: int
    def __init__(self, transport: SubprocessTransport, protocol: SubprocessStreamProtocol, loop: AbstractEventLoop) -> None: ...
    @property
    def returncode(self) -> int | None: ...
    async def wait(self) -> int: ...
    def send_signal(self, signal: int) -> None: ...
    def terminate(self) -> None: ...
    def kill(self) -> None: ...
    async def communicate(self, input: Buffer | None = None) -> tuple[bytes, bytes]: ...
if sys.version_info >= (3, 10):
    async def create_subprocess_shell(cmd: str | bytes, stdin: int | IO[Any] | None = None, stdout: int | IO[Any] | None = None, stderr: int | IO[Any] | None = None, limit: int = 65536, **kwds: Any) -> Process: ...
else:
    async def create_subprocess_shell(cmd: str | bytes, stdin: int | IO[Any] | None = None, stdout: int | IO[Any] | None = None, stderr: int | IO[Any] | None = None, loop: AbstractEventLoop | None = None, limit: int = 65536, **kwds: Any) -> Process: ...
if sys.version_info >= (3, 10):
    async def create_subprocess_exec(program: str | bytes | PathLike[str] | PathLike[bytes], *args: str | bytes | PathLike[str] | PathLike[bytes], stdin: int | IO[Any] | None = None, stdout: int | IO[Any] | None = None, stderr: int | IO[Any] | None = None, limit: int = 65536, **kwds: Any) -> Process: ...
else:
    async def create_subprocess_exec(program: str | bytes | PathLike[str] | PathLike[bytes], *args: str | bytes | PathLike[str] | PathLike[bytes], stdin: int | IO[Any] | None = None, stdout: int | IO[Any] | None = None, stderr: int | IO[Any] | None = None, loop: AbstractEventLoop | None = None, limit: int = 65536, **kwds: Any) -> Process: ...
