#- main.py
"""What the standard library gives."""
import inspect, io, os, platform, re, sys
from pathlib import Path


def opened(p: Path) -> io.BufferedReader:
    return p.open("rb")


def left(e: dict[str, str]) -> None:
    os.execle("a", "a", *sys.argv[1:], e)


def block(lines: list[str]) -> list[str]:
    return inspect.getblock(lines)


def number(b: bytes) -> int:
    return int.from_bytes(b, sys.byteorder)


def hook(u: "sys.UnraisableHookArgs") -> None: ...


platform.uname()[5]  #= str
re.Scanner([])
