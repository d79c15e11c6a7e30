"""Annotates a copy of a folder of packages and compares it with what it was. Arguments: the program, the folder, and a folder
with what the packages depend on; without that, the folder is taken for the standard library."""

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor

PROGRAM, SOURCE = sys.argv[1:3]
DEPENDENCIES = sys.argv[3] if len(sys.argv) > 3 else None
MOST_IMPORTED = 80


def files(root):
    found = {}
    for folder, folders, names in os.walk(root):
        folders[:] = [name for name in folders if name not in ("__pycache__", ".leitmotiv")]
        for name in names:
            path = os.path.join(folder, name)
            if not os.path.islink(path):
                with open(path, "rb") as file:
                    found[os.path.relpath(path, root)] = file.read()
    return found


class Bare(ast.NodeTransformer):
    def visit_FunctionDef(self, node):
        node.returns = None
        self.generic_visit(node)
        return node

    visit_AsyncFunctionDef = visit_FunctionDef

    def visit_arg(self, node):
        node.annotation = None
        return node


def is_checking(node):
    return isinstance(node, ast.If) and "TYPE_CHECKING" in ast.dump(node.test)


def same(before, after):
    """Whether two rows of statements are the same but for imports that are added."""
    rest = list(before)
    for node in after:
        if rest and (ast.dump(node) == ast.dump(rest[0])):
            rest.pop(0)
        elif rest and is_checking(node) and is_checking(rest[0]) and same(rest[0].body, node.body):
            rest.pop(0)
        elif not (isinstance(node, ast.ImportFrom) or is_checking(node)):
            return False
    return not rest


def modules(root):
    found = []
    for folder, folders, names in os.walk(root):
        folders[:] = [name for name in folders if name.isidentifier() and name != "__pycache__"]
        inside = os.path.relpath(folder, root)
        parts = [] if inside == "." else inside.split(os.sep)
        for name in names:
            if name.endswith(".py") and name[:-3].isidentifier():
                module = parts + ([] if name == "__init__.py" else [name[:-3]])
                if module and not any("test" in part or part in ("__main__", "setup", "idlelib") for part in module):
                    found.append(".".join(module))
    if DEPENDENCIES and len(found) > MOST_IMPORTED:
        random.seed(SOURCE.rsplit("/", 1)[-1])
        found = random.sample(found, MOST_IMPORTED)
    return sorted(found)


def imported(root, names):
    path = root if DEPENDENCIES is None else os.pathsep.join([root, DEPENDENCIES])
    environment = dict(os.environ, PYTHONPATH=path, PYTHONDONTWRITEBYTECODE="1")

    def one(name):
        program = f"import importlib; importlib.import_module({name!r})"
        try:
            done = subprocess.run(
                [sys.executable, "-c", program],
                capture_output=True, timeout=60, env=environment, cwd="/", stdin=subprocess.DEVNULL,
            )
            return name, done.returncode, done.stderr.decode(errors="replace")[-200:]
        except subprocess.TimeoutExpired:
            return name, 1, "too long"

    with ThreadPoolExecutor(2) as pool:
        return {name: (status, said) for name, status, said in pool.map(one, names)}


def run(root, *words):
    done = subprocess.run([PROGRAM, "--project", root, "annotate", *words], capture_output=True, text=True)
    return done.returncode, (done.stdout + done.stderr).strip().splitlines()[-1]


def main():
    root = os.path.join(tempfile.mkdtemp(), "copy")
    shutil.copytree(SOURCE, root, symlinks=True, ignore=shutil.ignore_patterns("__pycache__"))
    before, names = files(root), modules(root)
    good = [name for name, (status, _) in imported(root, names).items() if status == 0]
    status, said = run(root, "--write", "--dirty", "--at-least", "low")
    after = files(root)
    changed = [path for path in before if after.get(path) != before[path]]
    wrong = [path for path in after if path not in before]
    for path in changed:
        try:
            old, new = Bare().visit(ast.parse(before[path])), Bare().visit(ast.parse(after[path]))
            compile(after[path], path, "exec", dont_inherit=True)
            if not same(old.body, new.body):
                wrong.append(path)
        except SyntaxError:
            wrong.append(path)
    broken = {name: said for name, (status, said) in imported(root, good).items() if status != 0}
    again = run(root, "--at-least", "low")[1]
    is_stable = "no evidence" in again
    undone = run(root, "--undo")[0] if changed else 0
    is_back = files(root) == before
    name = os.path.basename(SOURCE)
    words = said.split(". Take it back")[0]
    print(f"{name}: {words}; {len(wrong)} files wrong; {len(good)} of {len(names)} modules imported before, "
          f"{len(broken)} of them not after; second run {'finds nothing' if is_stable else again}; "
          f"undo {'gives the same bytes' if is_back and undone == 0 else 'DIFFERS'}", flush=True)
    for path in wrong[:3]:
        print("   wrong:", path)
    for module, why in list(broken.items())[:3]:
        print("   broken:", module, why)
    shutil.rmtree(os.path.dirname(root))
    sys.exit(bool(status or wrong or broken or not is_stable or not is_back))


main()
