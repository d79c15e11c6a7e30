#- main.py
"""What a handler, a test of what is loaded, or a module that makes its names stands for."""
import codecs
import platform
import subprocess
import sys
from subprocess import PIPE, Popen

from made import Late


def system():
    try:
        return platform.linux_distribution()
    except Exception:
        return None


class Closed:
    def close(self): ...


class Ext:
    on_fail = print

    def __init__(self):
        self.closed = True

    def grow(self, md): ...

    def _grow(self, md):
        try:
            self.grow(md)
        except TypeError:
            self.grow(md, {})
        self.grow(md, {})  #! call.surplus

    def __exit__(self, *a):
        self.close()

    def go(self):
        if self.on_fail:
            self.on_fail()
        if self.grow:  #! operator.condition
            pass


def looked_up(flag):
    name = "utf-8" if flag else None
    try:
        codecs.lookup(name)
    except (LookupError, TypeError):
        pass


def loaded() -> None:
    if "berths" in sys.modules:
        import berths


class Runner:
    def __init__(self, cmd):
        self.proc = Popen(cmd, stdout=PIPE)

    def lines(self):
        return self.proc.stdout.readlines()

    def wrong(self):
        return self.proc.stderr.readlines()  #! none.member


def run(cmd):
    p = subprocess.Popen(cmd, stdin=subprocess.PIPE)
    p.stdin.write(b"")
    with subprocess.Popen(cmd, stderr=subprocess.PIPE) as other:
        return other.stderr.read()


#- made.py
def fill(names: dict[str, object]) -> None:
    names["Late"] = int


fill(globals())
