# The module tty, after the library reference ("tty").
import sys
from termios import *
from typing import Any
IFLAG: int
OFLAG: int
CFLAG: int
LFLAG: int
ISPEED: int
OSPEED: int
CC: int
def setraw(fd: Any, when: int = 2) -> Any: ...
def setcbreak(fd: Any, when: int = 2) -> Any: ...
if sys.version_info >= (3, 12):
    def cfmakeraw(mode: list[Any]) -> None: ...
if sys.version_info >= (3, 12):
    def cfmakecbreak(mode: list[Any]) -> None: ...
