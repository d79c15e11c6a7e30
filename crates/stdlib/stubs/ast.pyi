# The module ast, after the library reference ("ast") and the interpreter's own table of fields.
import sys
from collections.abc import Iterator, Sequence
import typing
from typing import Any, Generic, Literal, overload

_N = typing.TypeVar("_N", bound=AST)

class AST:
    _attributes: tuple[str, ...]
    _fields: tuple[str, ...]
    def __init__(self, *args: Any, **kwargs: Any) -> None: ...
    def __getattr__(self, name: str) -> Any: ...
class operator(AST): ...
class Add(operator): ...
class boolop(AST): ...
class And(boolop): ...
class stmt(AST):
    lineno: int
    col_offset: int
    end_lineno: int | None
    end_col_offset: int | None
class AnnAssign(stmt):
    __match_args__ = ('target', 'annotation', 'value', 'simple')
    target: expr
    annotation: expr
    value: expr | None
    simple: int
class Assert(stmt):
    __match_args__ = ('test', 'msg')
    test: expr
    msg: expr | None
class Assign(stmt):
    __match_args__ = ('targets', 'value', 'type_comment')
    targets: list[expr]
    value: expr
    type_comment: str | None
class AsyncFor(stmt):
    __match_args__ = ('target', 'iter', 'body', 'orelse', 'type_comment')
    target: expr
    iter: expr
    body: list[stmt]
    orelse: list[stmt]
    type_comment: str | None
class AsyncFunctionDef(stmt):
    __match_args__ = ('name', 'args', 'body', 'decorator_list', 'returns', 'type_comment', 'type_params')
    name: str
    args: arguments
    body: list[stmt]
    decorator_list: list[expr]
    returns: expr | None
    type_comment: str | None
    type_params: list[type_param]
class AsyncWith(stmt):
    __match_args__ = ('items', 'body', 'type_comment')
    items: list[withitem]
    body: list[stmt]
    type_comment: str | None
class expr(AST):
    lineno: int
    col_offset: int
    end_lineno: int | None
    end_col_offset: int | None
class Attribute(expr):
    __match_args__ = ('value', 'attr', 'ctx')
    value: expr
    attr: str
    ctx: expr_context
class AugAssign(stmt):
    __match_args__ = ('target', 'op', 'value')
    target: expr
    op: operator
    value: expr
class Await(expr):
    __match_args__ = ('value',)
    value: expr
class BinOp(expr):
    __match_args__ = ('left', 'op', 'right')
    left: expr
    op: operator
    right: expr
class BitAnd(operator): ...
class BitOr(operator): ...
class BitXor(operator): ...
class BoolOp(expr):
    __match_args__ = ('op', 'values')
    op: boolop
    values: list[expr]
class Break(stmt): ...
class Call(expr):
    __match_args__ = ('func', 'args', 'keywords')
    func: expr
    args: list[expr]
    keywords: list[keyword]
class ClassDef(stmt):
    __match_args__ = ('name', 'bases', 'keywords', 'body', 'decorator_list', 'type_params')
    name: str
    bases: list[expr]
    keywords: list[keyword]
    body: list[stmt]
    decorator_list: list[expr]
    type_params: list[type_param]
class Compare(expr):
    __match_args__ = ('left', 'ops', 'comparators')
    left: expr
    ops: list[cmpop]
    comparators: list[expr]
class Constant(expr):
    __match_args__ = ('value', 'kind')
    value: Any
    kind: str | None
    s: Any
    n: Any
class Continue(stmt): ...
class expr_context(AST): ...
class Del(expr_context): ...
class Delete(stmt):
    __match_args__ = ('targets',)
    targets: list[expr]
class Dict(expr):
    __match_args__ = ('keys', 'values')
    keys: list[expr]
    values: list[expr]
class DictComp(expr):
    __match_args__ = ('key', 'value', 'generators')
    key: expr
    value: expr
    generators: list[comprehension]
class Div(operator): ...
class cmpop(AST): ...
class Eq(cmpop): ...
class excepthandler(AST):
    lineno: int
    col_offset: int
    end_lineno: int
    end_col_offset: int
class ExceptHandler(excepthandler):
    __match_args__ = ('type', 'name', 'body')
    type: expr | None
    name: str | None
    body: list[stmt]
class Expr(stmt):
    __match_args__ = ('value',)
    value: expr
class mod(AST): ...
class Expression(mod):
    __match_args__ = ('body',)
    body: expr
class FloorDiv(operator): ...
class For(stmt):
    __match_args__ = ('target', 'iter', 'body', 'orelse', 'type_comment')
    target: expr
    iter: expr
    body: list[stmt]
    orelse: list[stmt]
    type_comment: str | None
class FormattedValue(expr):
    __match_args__ = ('value', 'conversion', 'format_spec')
    value: expr
    conversion: int
    format_spec: expr | None
class FunctionDef(stmt):
    __match_args__ = ('name', 'args', 'body', 'decorator_list', 'returns', 'type_comment', 'type_params')
    name: str
    args: arguments
    body: list[stmt]
    decorator_list: list[expr]
    returns: expr | None
    type_comment: str | None
    type_params: list[type_param]
class FunctionType(mod):
    __match_args__ = ('argtypes', 'returns')
    argtypes: list[expr]
    returns: expr
class GeneratorExp(expr):
    __match_args__ = ('elt', 'generators')
    elt: expr
    generators: list[comprehension]
class Global(stmt):
    __match_args__ = ('names',)
    names: list[str]
class Gt(cmpop): ...
class GtE(cmpop): ...
class If(stmt):
    __match_args__ = ('test', 'body', 'orelse')
    test: expr
    body: list[stmt]
    orelse: list[stmt]
class IfExp(expr):
    __match_args__ = ('test', 'body', 'orelse')
    test: expr
    body: expr
    orelse: expr
class Import(stmt):
    __match_args__ = ('names',)
    names: list[alias]
class ImportFrom(stmt):
    __match_args__ = ('module', 'names', 'level')
    module: str | None
    names: list[alias]
    level: int | None
class In(cmpop): ...
class Interactive(mod):
    __match_args__ = ('body',)
    body: list[stmt]
class unaryop(AST): ...
class Invert(unaryop): ...
class Is(cmpop): ...
class IsNot(cmpop): ...
class JoinedStr(expr):
    __match_args__ = ('values',)
    values: list[expr]
class LShift(operator): ...
class Lambda(expr):
    __match_args__ = ('args', 'body')
    args: arguments
    body: expr
class List(expr):
    __match_args__ = ('elts', 'ctx')
    elts: list[expr]
    ctx: expr_context
class ListComp(expr):
    __match_args__ = ('elt', 'generators')
    elt: expr
    generators: list[comprehension]
class Load(expr_context): ...
class Lt(cmpop): ...
class LtE(cmpop): ...
class MatMult(operator): ...
if sys.version_info >= (3, 10):
    class Match(stmt):
        __match_args__ = ('subject', 'cases')
        subject: expr
        cases: list[match_case]
    class pattern(AST):
        lineno: int
        col_offset: int
        end_lineno: int
        end_col_offset: int
    class MatchAs(pattern):
        __match_args__ = ('pattern', 'name')
        pattern: pattern | None
        name: str | None
    class MatchClass(pattern):
        __match_args__ = ('cls', 'patterns', 'kwd_attrs', 'kwd_patterns')
        cls: expr
        patterns: list[pattern]
        kwd_attrs: list[str]
        kwd_patterns: list[pattern]
    class MatchMapping(pattern):
        __match_args__ = ('keys', 'patterns', 'rest')
        keys: list[expr]
        patterns: list[pattern]
        rest: str | None
    class MatchOr(pattern):
        __match_args__ = ('patterns',)
        patterns: list[pattern]
    class MatchSequence(pattern):
        __match_args__ = ('patterns',)
        patterns: list[pattern]
    class MatchSingleton(pattern):
        __match_args__ = ('value',)
        value: Any
    class MatchStar(pattern):
        __match_args__ = ('name',)
        name: str | None
    class MatchValue(pattern):
        __match_args__ = ('value',)
        value: expr
class Mod(operator): ...
class Module(mod):
    __match_args__ = ('body', 'type_ignores')
    body: list[stmt]
    type_ignores: list[type_ignore]
class Mult(operator): ...
class Name(expr):
    __match_args__ = ('id', 'ctx')
    id: str
    ctx: expr_context
class NamedExpr(expr):
    __match_args__ = ('target', 'value')
    target: expr
    value: expr
class Nonlocal(stmt):
    __match_args__ = ('names',)
    names: list[str]
class Not(unaryop): ...
class NotEq(cmpop): ...
class NotIn(cmpop): ...
class Or(boolop): ...
if sys.version_info >= (3, 12):
    class type_param(AST):
        lineno: int
        col_offset: int
        end_lineno: int
        end_col_offset: int
    class ParamSpec(type_param):
        __match_args__ = ('name', 'default_value')
        name: str
        default_value: expr | None
class Pass(stmt): ...
class Pow(operator): ...
class RShift(operator): ...
class Raise(stmt):
    __match_args__ = ('exc', 'cause')
    exc: expr | None
    cause: expr | None
class Return(stmt):
    __match_args__ = ('value',)
    value: expr | None
class Set(expr):
    __match_args__ = ('elts',)
    elts: list[expr]
class SetComp(expr):
    __match_args__ = ('elt', 'generators')
    elt: expr
    generators: list[comprehension]
class Slice(expr):
    __match_args__ = ('lower', 'upper', 'step')
    lower: expr | None
    upper: expr | None
    step: expr | None
class Starred(expr):
    __match_args__ = ('value', 'ctx')
    value: expr
    ctx: expr_context
class Store(expr_context): ...
class Sub(operator): ...
class Subscript(expr):
    __match_args__ = ('value', 'slice', 'ctx')
    value: expr
    slice: expr
    ctx: expr_context
class Try(stmt):
    __match_args__ = ('body', 'handlers', 'orelse', 'finalbody')
    body: list[stmt]
    handlers: list[excepthandler]
    orelse: list[stmt]
    finalbody: list[stmt]
if sys.version_info >= (3, 11):
    class TryStar(stmt):
        __match_args__ = ('body', 'handlers', 'orelse', 'finalbody')
        body: list[stmt]
        handlers: list[excepthandler]
        orelse: list[stmt]
        finalbody: list[stmt]
class Tuple(expr):
    __match_args__ = ('elts', 'ctx')
    elts: list[expr]
    ctx: expr_context
    if sys.version_info >= (3, 9):
        dims: list[expr]
if sys.version_info >= (3, 12):
    class TypeAlias(stmt):
        __match_args__ = ('name', 'type_params', 'value')
        name: expr
        type_params: list[type_param]
        value: expr
class type_ignore(AST): ...
class TypeIgnore(type_ignore):
    __match_args__ = ('lineno', 'tag')
    lineno: int
    tag: str
if sys.version_info >= (3, 12):
    class TypeVar(type_param):
        __match_args__ = ('name', 'bound', 'default_value')
        name: str
        bound: expr | None
        default_value: expr | None
    class TypeVarTuple(type_param):
        __match_args__ = ('name', 'default_value')
        name: str
        default_value: expr | None
class UAdd(unaryop): ...
class USub(unaryop): ...
class UnaryOp(expr):
    __match_args__ = ('op', 'operand')
    op: unaryop
    operand: expr
class While(stmt):
    __match_args__ = ('test', 'body', 'orelse')
    test: expr
    body: list[stmt]
    orelse: list[stmt]
class With(stmt):
    __match_args__ = ('items', 'body', 'type_comment')
    items: list[withitem]
    body: list[stmt]
    type_comment: str | None
class Yield(expr):
    __match_args__ = ('value',)
    value: expr | None
class YieldFrom(expr):
    __match_args__ = ('value',)
    value: expr
if sys.version_info < (3, 12):
    class Ellipsis(Constant): ...
class alias(AST):
    lineno: int
    col_offset: int
    end_lineno: int | None
    end_col_offset: int | None
    __match_args__ = ('name', 'asname')
    name: str
    asname: str | None
class arg(AST):
    lineno: int
    col_offset: int
    end_lineno: int | None
    end_col_offset: int | None
    __match_args__ = ('arg', 'annotation', 'type_comment')
    arg: str
    annotation: expr | None
    type_comment: str | None
class arguments(AST):
    __match_args__ = ('posonlyargs', 'args', 'vararg', 'kwonlyargs', 'kw_defaults', 'kwarg', 'defaults')
    posonlyargs: list[arg]
    args: list[arg]
    vararg: arg | None
    kwonlyargs: list[arg]
    kw_defaults: list[expr]
    kwarg: arg | None
    defaults: list[expr]
class comprehension(AST):
    __match_args__ = ('target', 'iter', 'ifs', 'is_async')
    target: expr
    iter: expr
    ifs: list[expr]
    is_async: int
class keyword(AST):
    lineno: int
    col_offset: int
    end_lineno: int | None
    end_col_offset: int | None
    __match_args__ = ('arg', 'value')
    arg: str | None
    value: expr
if sys.version_info >= (3, 10):
    class match_case(AST):
        __match_args__ = ('pattern', 'guard', 'body')
        pattern: pattern
        guard: expr | None
        body: list[stmt]
class withitem(AST):
    __match_args__ = ('context_expr', 'optional_vars')
    context_expr: expr
    optional_vars: expr | None

if sys.version_info < (3, 14):
    if sys.version_info < (3, 12):
        class Num(Constant):
            n: complex
        class Str(Constant):
            s: str
        class Bytes(Constant):
            s: bytes
        class NameConstant(Constant): ...
    class Ellipsis(Constant): ...
class slice(AST): ...
class Index(slice):
    value: expr
    if sys.version_info >= (3, 9):
        def __new__(cls, value: expr, **kwargs: Any) -> Any: ...
class ExtSlice(slice):
    dims: list[expr]
    if sys.version_info >= (3, 9):
        def __new__(cls, dims: Sequence[expr] = ..., **kwargs: Any) -> Any: ...
class Suite(mod): ...
class AugLoad(expr_context): ...
class AugStore(expr_context): ...
class Param(expr_context): ...

PyCF_ALLOW_TOP_LEVEL_AWAIT: int
PyCF_ONLY_AST: int
PyCF_TYPE_COMMENTS: int
if sys.version_info >= (3, 13):
    PyCF_OPTIMIZED_AST: int

@overload
def parse(
    source: str | bytes, filename: str | bytes = "<unknown>", mode: Literal["exec"] = "exec", *, type_comments: bool = False,
    feature_version: int | tuple[int, int] | None = None, optimize: int = -1,
) -> Module: ...
@overload
def parse(
    source: str | bytes, filename: str | bytes, mode: Literal["eval"], *, type_comments: bool = False,
    feature_version: int | tuple[int, int] | None = None, optimize: int = -1,
) -> Expression: ...
@overload
def parse(
    source: str | bytes, filename: str | bytes = "<unknown>", *, mode: Literal["eval"], type_comments: bool = False,
    feature_version: int | tuple[int, int] | None = None, optimize: int = -1,
) -> Expression: ...
@overload
def parse(
    source: str | bytes, filename: str | bytes = "<unknown>", mode: str = "exec", *, type_comments: bool = False,
    feature_version: int | tuple[int, int] | None = None, optimize: int = -1,
) -> Any: ...
if sys.version_info >= (3, 9):
    def unparse(ast_obj: AST) -> str: ...
def literal_eval(node_or_string: str | AST) -> Any: ...
if sys.version_info >= (3, 13):
    def dump(node: AST, annotate_fields: bool = True, include_attributes: bool = False, *, indent: int | str | None = None, show_empty: bool = False) -> str: ...
else:
    def dump(node: AST, annotate_fields: bool = True, include_attributes: bool = False, *, indent: int | str | None = None) -> str: ...
def copy_location(new_node: _N, old_node: AST) -> _N: ...
def fix_missing_locations(node: _N) -> _N: ...
def increment_lineno(node: _N, n: int = 1) -> _N: ...
def iter_fields(node: AST) -> Iterator[tuple[str, Any]]: ...
def iter_child_nodes(node: AST) -> Iterator[AST]: ...
def get_docstring(node: AsyncFunctionDef | FunctionDef | ClassDef | Module, clean: bool = True) -> str | None: ...
def get_source_segment(source: str, node: AST, *, padded: bool = False) -> str | None: ...
def walk(node: AST) -> Iterator[AST]: ...
class NodeVisitor:
    def visit(self, node: AST) -> Any: ...
    def generic_visit(self, node: AST) -> Any: ...
    def visit_Constant(self, node: Constant) -> Any: ...
class NodeTransformer(NodeVisitor):
    def generic_visit(self, node: AST) -> AST: ...
if sys.version_info >= (3, 9):
    def main() -> None: ...
