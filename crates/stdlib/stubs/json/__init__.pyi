from collections.abc import Callable
from typing import Any
from .decoder import JSONDecodeError as JSONDecodeError, JSONDecoder as JSONDecoder
from .encoder import JSONEncoder as JSONEncoder

def dumps(
    obj: Any, *, skipkeys: bool = False, ensure_ascii: bool = True, check_circular: bool = True, allow_nan: bool = True, cls: type[JSONEncoder] | None = None,
    indent: int | str | None = None, separators: tuple[str, str] | None = None, default: Callable[[Any], Any] | None = None, sort_keys: bool = False, **kw: Any,
) -> str: ...
def dump(
    obj: Any, fp: Any, *, skipkeys: bool = False, ensure_ascii: bool = True, check_circular: bool = True, allow_nan: bool = True, cls: type[JSONEncoder] | None = None,
    indent: int | str | None = None, separators: tuple[str, str] | None = None, default: Callable[[Any], Any] | None = None, sort_keys: bool = False, **kw: Any,
) -> None: ...
def loads(
    s: str | bytes | bytearray, *, cls: type[JSONDecoder] | None = None, object_hook: Callable[[dict[Any, Any]], Any] | None = None, parse_float: Callable[[str], Any] | None = None,
    parse_int: Callable[[str], Any] | None = None, parse_constant: Callable[[str], Any] | None = None, object_pairs_hook: Callable[[list[tuple[Any, Any]]], Any] | None = None, **kw: Any,
) -> Any: ...
def load(
    fp: Any, *, cls: type[JSONDecoder] | None = None, object_hook: Callable[[dict[Any, Any]], Any] | None = None, parse_float: Callable[[str], Any] | None = None,
    parse_int: Callable[[str], Any] | None = None, parse_constant: Callable[[str], Any] | None = None, object_pairs_hook: Callable[[list[tuple[Any, Any]]], Any] | None = None, **kw: Any,
) -> Any: ...
def detect_encoding(b: bytes | bytearray) -> str: ...
