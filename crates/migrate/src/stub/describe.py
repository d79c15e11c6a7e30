"""Describes modules as they are once imported, for the writing and verifying of stubs.

Reads one line of JSON on standard input, {"paths": [...], "modules": [...]}, and writes one line of JSON for each module on
standard output. Nothing is imported but what is asked for and what that imports itself; what the modules print is dropped.
Runs on every Python from 3.6 on.
"""
import ast
import enum
import inspect
import json
import keyword
import os
import sys
import types

# What a class has that says nothing to those who use it, or is said by other means.
SKIPPED = {
    "__abstractmethods__", "__annotate__", "__annotate_func__", "__annotations__", "__annotations_cache__",
    "__array_finalize__", "__base__", "__basicsize__", "__bytes__", "__class_getitem__", "__classcell__", "__copy__",
    "__dataclass_fields__", "__dataclass_params__", "__deepcopy__", "__del__", "__delattr__", "__dict__",
    "__dictoffset__", "__dir__", "__doc__", "__firstlineno__", "__flags__", "__format__", "__getattribute__",
    "__getnewargs__", "__getstate__", "__init_subclass__", "__instancecheck__", "__isabstractmethod__",
    "__itemsize__", "__match_args__", "__module__", "__mro__", "__orig_bases__", "__parameters__", "__post_init__",
    "__prepare__", "__pyx_vtable__", "__qualname__", "__reduce__", "__reduce_cython__", "__reduce_ex__",
    "__replace__", "__repr__", "__setattr__", "__setstate__", "__setstate_cython__", "__signature__", "__sizeof__",
    "__slotnames__", "__slots__", "__static_attributes__", "__str__", "__subclasscheck__", "__subclasshook__",
    "__test__", "__text_signature__", "__type_params__", "__vectorcalloffset__", "__vtable__", "__weakref__",
    "__weakrefoffset__", "__wrapped__", "n_fields", "n_sequence_fields", "n_unnamed_fields",
}
OPERATORS = {"__eq__", "__ne__", "__lt__", "__le__", "__gt__", "__ge__", "__hash__"}
NATIVE = tuple(
    kind for kind in (
        types.BuiltinFunctionType,
        type(str.join),
        type(object.__init__),
        type(object().__str__),
        type(dict.__dict__["fromkeys"]),
    )
)
SIMPLE = (int, str, bytes, bool, float, type(None))


def is_name(text):
    return isinstance(text, str) and text.isidentifier() and not keyword.iskeyword(text)


def named(value):
    """A class or function by where it says that it is."""
    module = getattr(value, "__module__", None)
    name = getattr(value, "__qualname__", None) or getattr(value, "__name__", None)
    return {"module": module if isinstance(module, str) else None, "name": name if isinstance(name, str) else None}


def text_of(value):
    """A simple constant as source, if it is short."""
    if type(value) in SIMPLE and value == value and value not in (float("inf"), float("-inf")):
        text = repr(value)
        if len(text) <= 200:
            return text
    return None


def default_of(value):
    if value is inspect.Parameter.empty:
        return None
    return {"text": text_of(value), "type": named(type(value))}


def signature_of(value):
    """The parameters of something callable, or nothing where it does not tell them."""
    try:
        found = inspect.signature(value)
    except BaseException:
        return None
    return [
        {
            "name": parameter.name,
            "kind": int(parameter.kind),
            "default": default_of(parameter.default),
            "annotation": parameter.annotation if isinstance(parameter.annotation, str) else None,
        }
        for parameter in found.parameters.values()
    ]


def place_of(value):
    code = getattr(inspect.unwrap(value) if callable(value) else value, "__code__", None)
    if code is None:
        return None
    return {"file": code.co_filename, "line": code.co_firstlineno}


def doc_of(value):
    doc = getattr(value, "__doc__", None)
    return doc[:2000] if isinstance(doc, str) else None


def function(value, kind):
    try:
        place = place_of(value)
    except BaseException:
        place = None
    return {
        "kind": kind,
        "named": named(value),
        "params": signature_of(value),
        "place": place,
        "doc": doc_of(value),
        "is_async": inspect.iscoroutinefunction(value),
        "is_native": isinstance(value, NATIVE) or place is None,
    }


def value_of(value):
    described = {"kind": "value", "type": named(type(value)), "text": text_of(value)}
    try:
        if type(value) in (list, tuple, set, frozenset):
            described["items"] = kinds_of(value)
        elif type(value) is dict:
            described["keys"] = kinds_of(value)
            described["items"] = kinds_of(value.values())
    except BaseException:
        pass
    if callable(value):
        described["params"] = signature_of(value)
    return described


def kinds_of(values):
    kinds = []
    for count, value in enumerate(values):
        kind = named(type(value))
        if kind not in kinds:
            kinds.append(kind)
        if count >= 200 or len(kinds) > 4:
            break
    return kinds


def is_function(value):
    return isinstance(value, types.FunctionType) or isinstance(value, NATIVE)


def describe_member(owner, name, value, depth):
    if isinstance(value, staticmethod):
        return function(value.__func__, "static")
    if isinstance(value, classmethod):
        return function(value.__func__, "class-method")
    if isinstance(value, type(dict.__dict__["fromkeys"])):
        # Bound already: its first parameter is not told.
        return function(getattr(owner, name, value), "bound-class-method")
    if isinstance(value, property):
        return {"kind": "property", "settable": value.fset is not None, "doc": doc_of(value)}
    if isinstance(value, (types.GetSetDescriptorType, types.MemberDescriptorType)):
        return {"kind": "property", "settable": True, "doc": doc_of(value)}
    if isinstance(value, type):
        if depth < 4 and getattr(value, "__qualname__", "") == owner.__qualname__ + "." + name:
            return class_of(value, depth + 1)
        return {"kind": "alias", "named": named(value)}
    if isinstance(value, types.BuiltinFunctionType):
        return function(value, "static")
    if is_function(value):
        return function(value, "method")
    if not isinstance(value, SIMPLE) and hasattr(type(value), "__get__"):
        if callable(value):
            return function(value, "decorated")
        return {"kind": "property", "settable": hasattr(type(value), "__set__"), "doc": doc_of(value)}
    return value_of(value)


def class_of(value, depth=0):
    is_enum = isinstance(value, type(enum.Enum)) and value is not enum.Enum
    known = vars(value)
    members = []
    if is_enum:
        for name in getattr(value, "__members__", {}):
            member = value.__members__[name]
            described = {"kind": "enum-member", "text": text_of(member.value), "type": named(type(member.value))}
            members.append([name, described])
    for name in known:
        if not is_name(name) or name in SKIPPED or is_enum and name in value.__members__:
            continue
        if name.startswith("_") and not (name.startswith("__") and name.endswith("__")):
            continue
        if name in OPERATORS and known[name] is None:
            continue
        try:
            members.append([name, describe_member(value, name, known[name], depth)])
        except BaseException:
            continue
    places = {}
    try:
        # Slots of machine code take anything until the class says more.
        call = signature_of(value)
        for method in ("__init__", "__new__"):
            found = known.get(method)
            if found is not None and getattr(found, "__code__", None):
                places = {"file": found.__code__.co_filename, "line": found.__code__.co_firstlineno}
                break
    except BaseException:
        call = None
    return {
        "kind": "class",
        "named": named(value),
        "bases": [named(base) for base in value.__bases__],
        "ancestors": [named(base) for base in value.__mro__[1:]] + abstract_of(value),
        "metaclass": named(type(value)),
        "is_final": not value.__flags__ & (1 << 10),
        "is_enum": is_enum,
        "is_native": not value.__flags__ & (1 << 9),
        "members": members,
        "dir": sorted({name for base in value.__mro__ for name in vars(base) if isinstance(name, str)} | set(dir(type(value)))),
        "params": call,
        "doc": doc_of(value),
        "place": places or None,
    }


def abstract_of(value):
    """The abstract classes of the standard library that a class is registered with or answers for."""
    found = []
    for module in ("collections.abc", "numbers", "os", "io", "contextlib", "importlib.abc", "types", "typing"):
        loaded = sys.modules.get(module)
        for name in dir(loaded) if loaded is not None else ():
            candidate = getattr(loaded, name, None)
            try:
                if isinstance(type(candidate), type) and hasattr(candidate, "__abstractmethods__") and issubclass(value, candidate):
                    found.append({"module": candidate.__module__, "name": candidate.__qualname__})
            except BaseException:
                continue
    return found


def is_elsewhere(module, value):
    """Whether a class or function is another module's; what a module has of its own twin of machine code is its own."""
    where = named(value)["module"]
    own = module.__name__.split(".")
    if not where or where == module.__name__ or where.split(".")[-1].lstrip("_") == own[-1].lstrip("_") or where == "_" + own[0]:
        return False
    return where not in ("builtins", "_thread") or module.__name__ not in ("builtins", "types", "_thread", "threading")


def imported_names(module):
    """The names that a module has by import alone, as its source says; values do not tell where they are from."""
    path = getattr(module, "__file__", None) or ""
    if not path.endswith(".py"):
        return set()
    with open(path, "rb") as source:
        pending = list(ast.parse(source.read()).body)
    imported, made = set(), set()
    while pending:
        node = pending.pop()
        if isinstance(node, (ast.Import, ast.ImportFrom)):
            imported.update(alias.asname or alias.name.split(".")[0] for alias in node.names)
        elif isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
            made.add(node.name)
        elif isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            made.add(node.id)
        elif not isinstance(node, ast.Lambda):
            pending.extend(ast.iter_child_nodes(node))
    return imported - made


def describe(module, name, value):
    if isinstance(value, types.ModuleType):
        return {"kind": "module", "named": {"module": None, "name": value.__name__}}
    if (isinstance(value, type) or is_function(value)) and is_elsewhere(module, value):
        where = named(value)
        found = sys.modules.get(where["module"])
        for part in (where["name"] or "?").split("."):
            found = getattr(found, part, None)
        # What a module gives out of the interpreter's own machine code, and says so, is as good as its own.
        is_public = found is value and not where["module"].startswith("_") and where["module"] not in sys.builtin_module_names
        if is_public or name not in (getattr(module, "__all__", None) or ()):
            return {"kind": "alias", "named": where if found is value else {"module": None, "name": None}}
    if isinstance(value, type):
        return class_of(value)
    if is_function(value):
        return function(value, "function")
    if callable(value) and getattr(value, "__wrapped__", None) is not None:
        return function(value, "decorated")
    return value_of(value)


def module_of(name):
    __import__(name)
    module = sys.modules[name]
    exported = getattr(module, "__all__", None)
    names = []
    try:
        imported = imported_names(module) - set(exported or ())
    except BaseException:
        imported = set()
    for key in list(vars(module)):
        if not is_name(key) or key in ("__doc__", "__name__", "__file__") or key.startswith("__") and key not in (exported or ()):
            continue
        if name != "__future__" and named(type(vars(module)[key])) == {"module": "__future__", "name": "_Feature"}:
            continue
        try:
            described = describe(module, key, getattr(module, key))
            if key in imported and described["kind"] == "value":
                described = {"kind": "alias", "named": {"module": None, "name": None}}
            names.append([key, described])
        except BaseException:
            continue
    inside = []
    if hasattr(module, "__path__"):
        import pkgutil
        try:
            inside = sorted(found.name for found in pkgutil.iter_modules(module.__path__))
        except BaseException:
            inside = []
    return {
        "module": name,
        "file": getattr(module, "__file__", None),
        "is_package": hasattr(module, "__path__"),
        "all": [key for key in exported if isinstance(key, str)] if isinstance(exported, (list, tuple)) else None,
        "names": names,
        "inside": inside,
        "doc": doc_of(module),
    }


def main():
    request = json.loads(sys.stdin.readline())
    out = os.fdopen(os.dup(1), "w", encoding="utf-8")
    null = os.open(os.devnull, os.O_RDWR)
    os.dup2(null, 0)
    os.dup2(null, 1)
    os.dup2(null, 2)
    import warnings
    warnings.simplefilter("ignore")
    sys.argv = [""]
    sys.path[:0] = request["paths"]
    for name in request["modules"]:
        try:
            described = module_of(name)
        except BaseException as error:
            described = {"module": name, "error": type(error).__name__ + ": " + str(error)[:300]}
        described["python"] = list(sys.version_info[:3])
        described["platform"] = sys.platform
        out.write(json.dumps(described) + "\n")
        out.flush()
    # Threads that the modules may have begun are not waited for.
    os._exit(0)


main()
