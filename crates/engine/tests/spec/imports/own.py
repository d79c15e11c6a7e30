#- ferry/__init__.py
from . import absent  #! import.unresolved "module `ferry` has no `absent`"
from . import fleet
from ferry import nothing  #! import.unresolved
from .gone import thing  #! import.unresolved
from . import late

try:
    from . import speed
except ImportError:
    speed = None

if fleet:
    late = 3
#- ferry/fleet.py
from . import tides  #! import.unresolved
from ferry import late
#- made/__init__.py
from . import anything


def __getattr__(name):
    return name
