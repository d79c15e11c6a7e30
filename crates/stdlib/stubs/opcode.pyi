# The module opcode, after its source.
import sys
cmp_op: tuple[str, ...]
if sys.version_info >= (3, 12):
    hasarg: list[int]
hasconst: list[int]
hasname: list[int]
hasjrel: list[int]
hasjabs: list[int]
haslocal: list[int]
hascompare: list[int]
hasfree: list[int]
if sys.version_info >= (3, 12):
    hasexc: list[int]
if sys.version_info < (3, 12):
    hasnargs: list[int]
opname: list[str]
opmap: dict[str, int]
HAVE_ARGUMENT: int
EXTENDED_ARG: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    ENABLE_SPECIALIZATION: bool

def stack_effect(opcode: int, oparg: int | None = None, /, *, jump: bool | None = None) -> int: ...
if sys.version_info >= (3, 13):
    hasjump: list[int]
