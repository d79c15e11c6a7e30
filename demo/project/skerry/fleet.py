"""The fleet: all vessels by name."""

from skerry import store, vessels

_FLEET = {}


def load(path=None):
    _FLEET.clear()
    for record in store.read("fleet", path):
        vessel = vessels.make(record)
        _FLEET[vessel.name] = vessel
    return len(_FLEET)


def add(vessel):
    _FLEET[vessel.name] = vessel
    return vessel


def find(name):
    """The vessel of that name; names are told apart without case."""
    for vessel in _FLEET.values():
        if vessel.name.lower() == name.lower():
            return vessel
    return None


def all_vessels():
    return sorted(_FLEET.values(), key=lambda vessel: vessel.name)


def in_service():
    return [vessel for vessel in all_vessels() if vessel.in_service]


def flagship():
    """The biggest vessel in service."""
    biggest = None
    for vessel in in_service():
        if biggest is None or vessel.capacity > biggest.capacity:
            biggest = vessel
    return biggest


def withdraw(name, reason=""):
    vessel = find(name)
    if vessel is None:
        raise KeyError(name)
    vessel.in_service = False
    vessel.log.append("withdrawn" + (": " + reason if reason else ""))
    return vessel


def total_capacity():
    total = 0
    for vessel in in_service():
        total += vessel.capacity
    return total
