"""Berths and who lies where."""

from skerry import store


class Berth(object):
    __slots__ = ("name", "depth", "length", "island", "occupant")

    def __init__(self, name, depth, length, island):
        self.name = name
        self.depth = depth
        self.length = length
        self.island = island
        self.occupant = None

    def fits(self, vessel):
        return vessel.length <= self.length and vessel.draught <= self.depth

    def __eq__(self, other):
        return isinstance(other, Berth) and other.name == self.name

    def __hash__(self):
        return hash(self.name)


class Harbour(object):
    """All berths, and the moves between them."""

    def __init__(self, berths=None):
        self.berths = {}
        for berth in berths or []:
            self.berths[berth.name] = berth
        self.moves = []

    @classmethod
    def load(cls):
        return cls([Berth(r["name"], r["depth"], r["length"], r["island"]) for r in store.read("berths")])

    def list(self):
        """Names of all berths. Older scripts call it by this name."""
        return sorted(self.berths)

    def get(self, name):
        return self.berths.get(name)

    def free(self):
        return [berth for berth in self.berths.values() if berth.occupant is None]

    def on_island(self, island) -> "list[Berth]":
        return [berth for berth in self.berths.values() if berth.island == island]

    def assign(self, vessel, name, force=False):
        """Moors a vessel; returns the berth."""
        berth = self.berths.get(name)
        if berth is None:
            raise KeyError("no berth %r" % name)
        if not berth.fits(vessel) and not force:
            raise ValueError("%s does not fit %s" % (vessel.name, name))
        if berth.occupant is not None and berth.occupant is not vessel:
            self.release(berth.occupant)
        berth.occupant = vessel
        vessel.moor(berth)
        self.moves.append((vessel.name, name))
        return berth

    def release(self, vessel):
        if vessel.berth is not None:
            vessel.berth.occupant = None
        return vessel.cast_off()

    def best_for(self, vessel):
        """The tightest free berth that fits."""
        best = None
        for berth in self.free():
            if berth.fits(vessel):
                if best is None or berth.length < best.length:
                    best = berth
        return best

    def swap(self, first, second):
        """Two vessels change places; asked for in storms."""
        here, there = first.berth, second.berth
        self.release(first)
        self.release(second)
        self.assign(first, there.name)
        self.assign(second, here.name, True, "storm")
