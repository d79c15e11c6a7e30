# The module dis, after the library reference ("dis").
import sys
import types
from collections.abc import Callable, Iterator
from opcode import EXTENDED_ARG as EXTENDED_ARG, cmp_op as cmp_op, hascompare as hascompare, hasconst as hasconst
from opcode import hasfree as hasfree, hasjabs as hasjabs, hasjrel as hasjrel, haslocal as haslocal, hasname as hasname
from opcode import hasnargs as hasnargs, opmap as opmap, opname as opname, stack_effect as stack_effect
from opcode import HAVE_ARGUMENT as HAVE_ARGUMENT
from opcode import *
from typing import IO, Any, NamedTuple
from typing_extensions import Self
COMPILER_FLAG_NAMES: dict[int, str]

class Instruction(NamedTuple):
    opname: str
    opcode: int
    arg: int | None
    argval: Any
    argrepr: str
    offset: int
    if sys.version_info >= (3, 13):
        @property
        def oparg(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def baseopcode(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def baseopname(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def cache_offset(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def end_offset(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def jump_target(self) -> Any: ...
    if sys.version_info >= (3, 13):
        @property
        def is_jump_target(self) -> bool: ...

class Bytecode:
    codeobj: types.CodeType
    first_line: int
    current_offset: int | None
    if sys.version_info >= (3, 11):
        exception_entries: Any
    if sys.version_info >= (3, 11):
        show_caches: bool
    if sys.version_info >= (3, 11):
        adaptive: bool
    if sys.version_info >= (3, 13):
        show_offsets: bool
    if sys.version_info < (3, 11):
        def __init__(self, x: Any, *, first_line: int | None = None, current_offset: int | None = None) -> None: ...
    if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
        def __init__(self, x: Any, *, first_line: int | None = None, current_offset: int | None = None, show_caches: bool = False, adaptive: bool = False) -> None: ...
    if sys.version_info >= (3, 13):
        def __init__(self, x: Any, *, first_line: int | None = None, current_offset: int | None = None, show_caches: bool = False, adaptive: bool = False, show_offsets: bool = False) -> None: ...
    if sys.version_info >= (3, 11):
        @classmethod
        def from_traceback(cls, tb: types.TracebackType, *, show_caches: bool = False, adaptive: bool = False) -> Self: ...
    else:
        @classmethod
        def from_traceback(cls, tb: types.TracebackType) -> Self: ...
    def __iter__(self) -> Iterator[Instruction]: ...
    def info(self) -> str: ...
    def dis(self) -> str: ...
if sys.version_info < (3, 13):
    FORMAT_VALUE_CONVERTERS: tuple[tuple[Any, str], ...]

def findlabels(code: Any) -> list[int]: ...
def findlinestarts(code: Any) -> Iterator[tuple[int, int]]: ...
def pretty_flags(flags: int) -> str: ...
def code_info(x: Any) -> str: ...
if sys.version_info < (3, 11):
    def dis(x: Any = None, *, file: IO[str] | None = None, depth: int | None = None) -> None: ...
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    def dis(x: Any = None, *, file: IO[str] | None = None, depth: int | None = None, show_caches: bool = False, adaptive: bool = False) -> None: ...
if sys.version_info >= (3, 13):
    def dis(x: Any = None, *, file: IO[str] | None = None, depth: int | None = None, show_caches: bool = False, adaptive: bool = False, show_offsets: bool = False) -> None: ...
if sys.version_info < (3, 11):
    def distb(tb: types.TracebackType | None = None, *, file: IO[str] | None = None) -> None: ...
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    def distb(tb: types.TracebackType | None = None, *, file: IO[str] | None = None, show_caches: bool = False, adaptive: bool = False) -> None: ...
if sys.version_info >= (3, 13):
    def distb(tb: types.TracebackType | None = None, *, file: IO[str] | None = None, show_caches: bool = False, adaptive: bool = False, show_offsets: bool = False) -> None: ...
if sys.version_info < (3, 11):
    def disassemble(co: Any, lasti: int = -1, *, file: IO[str] | None = None) -> None: ...
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    def disassemble(co: Any, lasti: int = -1, *, file: IO[str] | None = None, show_caches: bool = False, adaptive: bool = False) -> None: ...
if sys.version_info >= (3, 13):
    def disassemble(co: Any, lasti: int = -1, *, file: IO[str] | None = None, show_caches: bool = False, adaptive: bool = False, show_offsets: bool = False) -> None: ...
disco = disassemble
def show_code(co: Any, *, file: IO[str] | None = None) -> None: ...
if sys.version_info < (3, 11):
    def get_instructions(x: Any, *, first_line: int | None = None) -> Iterator[Instruction]: ...
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    def get_instructions(x: Any, *, first_line: int | None = None, show_caches: bool | None = False, adaptive: bool = False) -> Iterator[Instruction]: ...
if sys.version_info >= (3, 13):
    def get_instructions(x: Any, *, first_line: int | None = None, show_caches: bool | None = None, adaptive: bool = False) -> Iterator[Instruction]: ...
if sys.version_info < (3, 13):
    FORMAT_VALUE: Any
if sys.version_info < (3, 13):
    MAKE_FUNCTION: Any
if sys.version_info < (3, 13):
    MAKE_FUNCTION_FLAGS: tuple[str, str, str, str]
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    LOAD_CONST: Any
if sys.version_info >= (3, 13):
    LOAD_CONST: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    LOAD_GLOBAL: Any
if sys.version_info >= (3, 13):
    LOAD_GLOBAL: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    BINARY_OP: Any
if sys.version_info >= (3, 13):
    BINARY_OP: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    JUMP_BACKWARD: Any
if sys.version_info >= (3, 13):
    JUMP_BACKWARD: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    CACHE: Any
if sys.version_info >= (3, 13):
    CACHE: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    spec_op: int
if sys.version_info >= (3, 11) and sys.version_info < (3, 13):
    specialized: str
if sys.version_info >= (3, 11):
    deoptmap: dict[str, str]
if sys.version_info >= (3, 11):
    UNKNOWN: Any
if sys.version_info >= (3, 11):
    class Positions(NamedTuple):
        lineno: Any = ...
        end_lineno: Any = ...
        col_offset: Any = ...
        end_col_offset: Any = ...
if sys.version_info >= (3, 11):
    def main() -> None: ...
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    RETURN_CONST: Any
if sys.version_info >= (3, 13):
    RETURN_CONST: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    FOR_ITER: Any
if sys.version_info >= (3, 13):
    FOR_ITER: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    SEND: Any
if sys.version_info >= (3, 13):
    SEND: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    LOAD_ATTR: Any
if sys.version_info >= (3, 13):
    LOAD_ATTR: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    LOAD_SUPER_ATTR: Any
if sys.version_info >= (3, 13):
    LOAD_SUPER_ATTR: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    CALL_INTRINSIC_1: Any
if sys.version_info >= (3, 13):
    CALL_INTRINSIC_1: int
if sys.version_info >= (3, 12) and sys.version_info < (3, 13):
    CALL_INTRINSIC_2: Any
if sys.version_info >= (3, 13):
    CALL_INTRINSIC_2: int
if sys.version_info >= (3, 12):
    hasarg: list[int]
if sys.version_info >= (3, 12):
    hasexc: list[int]
if sys.version_info >= (3, 13):
    CONVERT_VALUE: int
if sys.version_info >= (3, 13):
    SET_FUNCTION_ATTRIBUTE: int
if sys.version_info >= (3, 13):
    FUNCTION_ATTR_FLAGS: tuple[str, str, str, str]
if sys.version_info >= (3, 13):
    ENTER_EXECUTOR: int
if sys.version_info >= (3, 13):
    LOAD_FAST_LOAD_FAST: int
if sys.version_info >= (3, 13):
    STORE_FAST_LOAD_FAST: int
if sys.version_info >= (3, 13):
    STORE_FAST_STORE_FAST: int
if sys.version_info >= (3, 13):
    name: str
if sys.version_info >= (3, 13):
    op: int
if sys.version_info >= (3, 13):
    class Formatter:
        file: Any
        lineno_width: Any
        offset_width: Any
        label_width: Any
        show_caches: Any

        def __init__(self, file: Any = None, lineno_width: int = 0, offset_width: int = 0, label_width: int = 0, line_offset: int = 0, show_caches: bool = False) -> None: ...
        def print_instruction(self, instr: Any, mark_as_current: bool = False) -> None: ...
        def print_instruction_line(self, instr: Any, mark_as_current: Any) -> None: ...
        def print_exception_table(self, exception_entries: Any) -> None: ...
if sys.version_info >= (3, 13):
    class ArgResolver:
        co_consts: Any
        names: Any
        varname_from_oparg: Any
        labels_map: Any

        def __init__(self, co_consts: Any = None, names: Any = None, varname_from_oparg: Any = None, labels_map: Any = None) -> None: ...
        def offset_from_jump_arg(self, op: Any, arg: Any, offset: Any) -> Any: ...
        def get_label_for_offset(self, offset: Any) -> Any: ...
        def get_argval_argrepr(self, op: Any, arg: Any, offset: Any) -> tuple: ...
if sys.version_info >= (3, 13):
    def print_instructions(instrs: Any, exception_entries: Any, formatter: Any, lasti: int = ...) -> None: ...
if sys.version_info >= (3, 13):
    hasjump: list[int]
