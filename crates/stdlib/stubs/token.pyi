# The module token, after the library reference ("token").
import sys
AMPER: int
AMPEREQUAL: int
if sys.version_info < (3, 13):
    ASYNC: int
AT: int
ATEQUAL: int
if sys.version_info < (3, 13):
    AWAIT: int
CIRCUMFLEX: int
CIRCUMFLEXEQUAL: int
COLON: int
COLONEQUAL: int
COMMA: int
COMMENT: int
DEDENT: int
DOT: int
DOUBLESLASH: int
DOUBLESLASHEQUAL: int
DOUBLESTAR: int
DOUBLESTAREQUAL: int
ELLIPSIS: int
ENCODING: int
ENDMARKER: int
EQEQUAL: int
EQUAL: int
ERRORTOKEN: int
GREATER: int
GREATEREQUAL: int
INDENT: int
LBRACE: int
LEFTSHIFT: int
LEFTSHIFTEQUAL: int
LESS: int
LESSEQUAL: int
LPAR: int
LSQB: int
MINEQUAL: int
MINUS: int
NAME: int
NEWLINE: int
NL: int
NOTEQUAL: int
NT_OFFSET: int
NUMBER: int
N_TOKENS: int
OP: int
PERCENT: int
PERCENTEQUAL: int
PLUS: int
PLUSEQUAL: int
RARROW: int
RBRACE: int
RIGHTSHIFT: int
RIGHTSHIFTEQUAL: int
RPAR: int
RSQB: int
SEMI: int
SLASH: int
SLASHEQUAL: int
STAR: int
STAREQUAL: int
STRING: int
TILDE: int
TYPE_COMMENT: int
TYPE_IGNORE: int
VBAR: int
VBAREQUAL: int
if sys.version_info >= (3, 10):
    SOFT_KEYWORD: int
if sys.version_info >= (3, 12):
    EXCLAMATION: int
if sys.version_info >= (3, 12):
    FSTRING_END: int
if sys.version_info >= (3, 12):
    FSTRING_MIDDLE: int
if sys.version_info >= (3, 12):
    FSTRING_START: int
tok_name: dict[int, str]
EXACT_TOKEN_TYPES: dict[str, int]
def ISTERMINAL(x: int) -> bool: ...
def ISNONTERMINAL(x: int) -> bool: ...
def ISEOF(x: int) -> bool: ...
