import ferry.fleet
import ferry.fleet as ships
import nowhere  #! import.unresolved "there is no module `nowhere`"
from ferry import fleet
from ferry.fleet import Vesel  #! import.unresolved "is `Vessel` meant?"
from ferry.fleet import Vessel, find
from ferry.names import *

find("x")  #= Vessel | None
fleet.COUNT  #= int
ferry.fleet.COUNT  #= int
ships.Vessel()  #= Vessel
BERTH  #= str
_hidden  #! name.undefined
fleet.nothing  #! member.absent

try:
    import absent
except ImportError:
    absent = None
#- ferry/__init__.py
#- ferry/fleet.py
COUNT = 3


class Vessel:
    pass


def find(name):
    if name:
        return Vessel()
    return None
#- ferry/names.py
BERTH = "north"
_hidden = 1
