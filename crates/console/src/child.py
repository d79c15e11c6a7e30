"""Runs statements that come in as lines of JSON, and says what became of each. Carried in the program."""

import ast
import builtins
import importlib
import json
import linecache
import os
import sys
import traceback


def main():
    commands = os.fdopen(os.dup(0), "rb")
    results = os.fdopen(os.dup(1), "wb")
    greeting = json.loads(commands.readline().decode("utf-8"))
    # What the program writes goes where the console's own lines go; what it reads comes from the terminal, if there is one.
    try:
        terminal = os.open("/dev/tty" if greeting["terminal"] else os.devnull, os.O_RDONLY)
    except OSError:
        terminal = os.open(os.devnull, os.O_RDONLY)
    os.dup2(terminal, 0)
    os.close(terminal)
    os.dup2(2, 1)
    stream = dict(mode="w", encoding="utf-8", errors="backslashreplace", buffering=1, closefd=False)
    sys.stdout = sys.__stdout__ = open(1, **stream)
    sys.stderr = sys.__stderr__ = open(2, **stream)
    sys.stdin = sys.__stdin__ = open(0, mode="r", encoding="utf-8", errors="surrogateescape", closefd=False)
    sys.path[:0] = [path for path in greeting["paths"] if path not in sys.path]
    sys.argv = [""]
    names = {"__name__": "__main__", "__doc__": None, "__builtins__": builtins}
    module = type(sys)("__main__")
    module.__dict__.update(names)
    sys.modules["__main__"] = module
    names = module.__dict__

    def say(answer):
        for stream in (sys.stdout, sys.stderr):
            try:
                stream.flush()
            except Exception:
                pass
        results.write(json.dumps(answer).encode("utf-8") + b"\n")
        results.flush()

    say({"ready": True})
    while True:
        try:
            line = commands.readline()
        except KeyboardInterrupt:
            continue
        if not line:
            return
        request = json.loads(line.decode("utf-8"))
        answer = {"done": 0, "error": None}
        try:
            if "reload" in request:
                reload(request["reload"])
            else:
                run(request["run"], request["name"], names, answer)
        except SystemExit as leaving:
            code = leaving.code
            answer["exit"] = code if isinstance(code, int) else (0 if code is None else 1)
            if code is not None and not isinstance(code, int):
                print(code, file=sys.stderr)
            say(answer)
            return
        except BaseException as error:
            answer["error"] = type(error).__name__
            tell(error)
        try:
            say(answer)
        except KeyboardInterrupt:
            say(answer)


def run(source, name, names, answer):
    """Runs the statements of a source one by one, and counts those that were run to their ends."""
    linecache.cache[name] = (len(source), None, source.splitlines(True), name)
    tree = ast.parse(source, name)
    for statement in tree.body:
        exec(compile(ast.Interactive([statement]), name, "single"), names)
        answer["done"] += 1


def reload(name):
    if name in sys.modules:
        importlib.reload(sys.modules[name])
    else:
        importlib.import_module(name)


def tell(error):
    """Prints an exception with where it came from, without this file's own part of that."""
    where = error.__traceback__
    own = main.__code__.co_filename
    while where is not None and where.tb_frame.f_code.co_filename == own:
        where = where.tb_next
    try:
        traceback.print_exception(type(error), error, where)
    except BaseException:
        print(type(error).__name__, file=sys.stderr)


main()
