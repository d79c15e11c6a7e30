# The module fcntl, after the library reference ("fcntl").
import sys
from typing import Any
def fcntl(fd: Any, cmd: int, arg: Any = 0, /) -> Any: ...
def ioctl(fd: Any, request: int, arg: Any = 0, mutate_flag: bool = True, /) -> Any: ...
def flock(fd: Any, operation: int, /) -> None: ...
def lockf(fd: Any, cmd: int, len: int = 0, start: int = 0, whence: int = 0, /) -> Any: ...
DN_ACCESS: int
DN_ATTRIB: int
DN_CREATE: int
DN_DELETE: int
DN_MODIFY: int
DN_MULTISHOT: int
DN_RENAME: int
FASYNC: int
FD_CLOEXEC: int
F_ADD_SEALS: int
F_DUPFD: int
F_DUPFD_CLOEXEC: int
F_EXLCK: int
F_GETFD: int
F_GETFL: int
F_GETLEASE: int
F_GETLK: int
F_GETLK64: int
F_GETOWN: int
F_GETSIG: int
F_GET_SEALS: int
F_NOTIFY: int
F_RDLCK: int
F_SEAL_GROW: int
F_SEAL_SEAL: int
F_SEAL_SHRINK: int
F_SEAL_WRITE: int
F_SETFD: int
F_SETFL: int
F_SETLEASE: int
F_SETLK: int
F_SETLK64: int
F_SETLKW: int
F_SETLKW64: int
F_SETOWN: int
F_SETSIG: int
F_SHLCK: int
F_UNLCK: int
F_WRLCK: int
LOCK_EX: int
LOCK_MAND: int
LOCK_NB: int
LOCK_READ: int
LOCK_RW: int
LOCK_SH: int
LOCK_UN: int
LOCK_WRITE: int
if sys.version_info >= (3, 9):
    F_OFD_GETLK: int
if sys.version_info >= (3, 9):
    F_OFD_SETLK: int
if sys.version_info >= (3, 9):
    F_OFD_SETLKW: int
if sys.version_info >= (3, 10):
    F_GETPIPE_SZ: int
if sys.version_info >= (3, 10):
    F_SETPIPE_SZ: int
if sys.version_info >= (3, 12):
    FICLONE: int
if sys.version_info >= (3, 12):
    FICLONERANGE: int
if sys.version_info >= (3, 13):
    F_GETOWN_EX: int
if sys.version_info >= (3, 13):
    F_GET_FILE_RW_HINT: int
if sys.version_info >= (3, 13):
    F_GET_RW_HINT: int
if sys.version_info >= (3, 13):
    F_OWNER_PGRP: int
if sys.version_info >= (3, 13):
    F_OWNER_PID: int
if sys.version_info >= (3, 13):
    F_OWNER_TID: int
if sys.version_info >= (3, 13):
    F_SEAL_FUTURE_WRITE: int
if sys.version_info >= (3, 13):
    F_SETOWN_EX: int
if sys.version_info >= (3, 13):
    F_SET_FILE_RW_HINT: int
if sys.version_info >= (3, 13):
    F_SET_RW_HINT: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_EXTREME: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_LONG: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_MEDIUM: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_NONE: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_NOT_SET: int
if sys.version_info >= (3, 13):
    RWH_WRITE_LIFE_SHORT: int
