#= Distributing type information

#. A stub says what a module has, whatever is in the module.
import gear

a: int = gear.shift()
b: str = gear.shift()  #! value.assign

#- gear.py
def shift():
    return "x"
#- gear.pyi
def shift() -> int: ...

#. What neither a stub nor its module has is absent.
import gear

gear.nowhere  #! member.absent
gear.shift()


def use(g: gear.Gear) -> None:
    g.turn()
    g.nowhere  #! member.absent

#- gear.py
def shift():
    return "x"


class Gear:
    def turn(self):
        return 1
#- gear.pyi
def shift() -> int: ...


class Gear:
    def turn(self) -> int: ...

#. What a stub imports it keeps to itself, unless it says `import X as X`.
from gear import os  #! import.unresolved
from gear import system  #! import.unresolved
from gear import re

re.compile

#- gear.pyi
import os
import re as re
import sys as system

#. `from X import Y as Y` in a stub passes `Y` on.
from gear import Fine, Hidden  #! import.unresolved

Fine

#- gear.pyi
from parts import Fine as Fine
from parts import Hidden
#- parts.py
class Fine: ...
class Hidden: ...

#. `from X import *` in a stub passes on what it brings.
from gear import Fine
from gear import Lost  #! import.unresolved

Fine

#- gear.pyi
from parts import *
#- parts.py
class Fine: ...

#. What `__all__` lists is passed on.
from gear import Fine
from gear import Lost  #! import.unresolved

Fine

#- gear.pyi
from parts import Fine, Lost

__all__ = ["Fine"]
#- parts.py
class Fine: ...
class Lost: ...

#. A module that cannot be found is told.
import nowhere  #! import.unresolved
import json
from elsewhere.at import all  #! import.unresolved

#. A name that a module does not have is told.
from vessels import Ferry, Tug  #! import.unresolved

Ferry

#- vessels.py
class Ferry: ...

#. A package has its submodules where they are imported.
#- falls short: a submodule that nobody imported counts as there
import fleet.ferries

fleet.ferries.Ferry()
fleet.tugs  #! member.absent

#- fleet/__init__.py
#- fleet/ferries.py
class Ferry: ...
#- fleet/tugs.py

#. A relative import begins at the package.
import fleet.ferries

a: int = fleet.ferries.count
b: str = fleet.ferries.count  #! value.assign

#- fleet/__init__.py
base: int = 3
#- fleet/ferries.py
from . import base
from .parts import more

count = base + more
#- fleet/parts.py
more: int = 4

#. Names for `TYPE_CHECKING` are there for annotations.
from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from vessels import Ferry


def use(ferry: Ferry) -> None:
    ferry.nowhere  #! member.absent

#- vessels.py
class Ferry: ...

#. In a stub, names may be used before they are defined.
import gear

a: gear.Gear = gear.make()
b: int = gear.make()  #! value.assign

#- gear.pyi
def make() -> Gear: ...


class Gear: ...

#. In a stub, functions have no body, and defaults may be dots.
import gear

gear.shift()
gear.shift("x")  #! call.argument

#- gear.pyi
def shift(n: int = ...) -> int: ...

#. A stub that is only for some versions is that of the version.
import gear

a: int = gear.new
gear.old  #! member.absent

#- gear.pyi
import sys

if sys.version_info >= (3, 8):
    new: int
else:
    old: int
