"""Print, for each stub of the standard library, the names that its module has in this interpreter and the stub does not."""

import ast
import importlib
import pathlib
import sys
import warnings

SILENT = {"this", "antigravity", "__main__"}
HEAD = """\
# Names that modules of the standard library have besides what is documented and in our stubs, of the interpreter that
# `cargo xtask library-names` was run with: nobody is told that they are missing, and nothing is known of them.

"""


def bound(tree: ast.Module) -> set[str]:
    names: set[str] = set()
    for node in ast.walk(tree):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
            names.add(node.name)
        elif isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store):
            names.add(node.id)
        elif isinstance(node, (ast.Import, ast.ImportFrom)):
            names.update((alias.asname or alias.name).split(".")[0] for alias in node.names)
    return names


def main() -> None:
    warnings.simplefilter("ignore")
    root = pathlib.Path(sys.argv[1])
    lines = []
    for path in sorted(root.rglob("*.pyi")):
        parts = path.relative_to(root).with_suffix("").parts
        name = ".".join(parts[:-1] if parts[-1] == "__init__" else parts)
        tree = ast.parse(path.read_text())
        known = bound(tree)
        is_open = any(isinstance(node, ast.FunctionDef) and node.name == "__getattr__" for node in tree.body)
        if name in SILENT or is_open:
            continue
        try:
            module = importlib.import_module(name)
        except BaseException:
            continue
        parts = {inner.stem for inner in path.parent.iterdir()} if path.name == "__init__.pyi" else set()
        known |= parts
        missing = [at for at in dir(module) if at.isidentifier() and not at.startswith("__") and at not in known]
        if missing:
            lines.append(" ".join([name, *missing]))
    sys.stdout.write(HEAD + "\n".join(lines) + "\n")


main()
