import sys
from collections.abc import Callable, Iterable, Mapping
from types import MappingProxyType
from typing import Any, ClassVar, Generic, Protocol, TypeIs, TypeVar, overload

_T = TypeVar("_T")

class _MISSING_TYPE: ...
MISSING: _MISSING_TYPE
if sys.version_info >= (3, 10):
    class KW_ONLY: ...
class FrozenInstanceError(AttributeError): ...
class InitVar(Generic[_T]):
    type: Any
    def __init__(self, type: Any) -> None: ...

class Field(Generic[_T]):
    name: str
    type: Any
    default: Any
    default_factory: Any
    repr: bool
    hash: bool | None
    init: bool
    compare: bool
    metadata: MappingProxyType[Any, Any]
    kw_only: bool
    def __set_name__(self, owner: type[Any], name: str) -> None: ...
    def __init__(self, default, default_factory, init, repr, hash, compare, metadata, kw_only) -> None: ...

@overload
def dataclass(
    cls: type[_T], /, *, init: bool = True, repr: bool = True, eq: bool = True, order: bool = False, unsafe_hash: bool = False,
    frozen: bool = False, match_args: bool = True, kw_only: bool = False, slots: bool = False, weakref_slot: bool = False,
) -> type[_T]: ...
@overload
def dataclass(
    cls: None = None, /, *, init: bool = True, repr: bool = True, eq: bool = True, order: bool = False, unsafe_hash: bool = False,
    frozen: bool = False, match_args: bool = True, kw_only: bool = False, slots: bool = False, weakref_slot: bool = False,
) -> Callable[[_T], _T]: ...
@overload
def field(
    *, default: _T, init: bool = True, repr: bool = True, hash: bool | None = None, compare: bool = True,
    metadata: Mapping[Any, Any] | None = None, kw_only: bool = ..., doc: str | None = None,
) -> _T: ...
@overload
def field(
    *, default_factory: Callable[[], _T], init: bool = True, repr: bool = True, hash: bool | None = None, compare: bool = True,
    metadata: Mapping[Any, Any] | None = None, kw_only: bool = ..., doc: str | None = None,
) -> _T: ...
@overload
def field(
    *, init: bool = True, repr: bool = True, hash: bool | None = None, compare: bool = True,
    metadata: Mapping[Any, Any] | None = None, kw_only: bool = ..., doc: str | None = None,
) -> Any: ...
# What has fields, as an object or as a class.
class _HasFields(Protocol):
    __dataclass_fields__: ClassVar[dict[str, Any]]

def fields(class_or_instance: _HasFields | type[_HasFields]) -> tuple[Field[Any], ...]: ...
def asdict(obj: _HasFields, *, dict_factory: Callable[[list[tuple[str, Any]]], Any] = ...) -> dict[str, Any]: ...
def astuple(obj: _HasFields, *, tuple_factory: Callable[[list[Any]], Any] = ...) -> tuple[Any, ...]: ...
def make_dataclass(cls_name: str, fields: Iterable[Any], *, bases: tuple[type, ...] = (), namespace: dict[str, Any] | None = None, **kwargs: Any) -> type: ...
def replace(obj: _T, /, **changes: Any) -> _T: ...
@overload
def is_dataclass(obj: type) -> TypeIs[type[_HasFields]]: ...
@overload
def is_dataclass(obj: object) -> TypeIs[_HasFields | type[_HasFields]]: ...
