"""What attributes hold, and what fills them."""
from __future__ import annotations


class Vessel:
    def sail(self):
        return 1

    def moor(self):
        return 2


class Fleet:
    def __init__(self, flag, size, lead):  #= flag: str fair; size: int fair attributes; lead: Vessel fair attributes
        self.flag = flag
        self.size = size
        self.lead = lead
        self.vessels = []  #= self.vessels: list[Vessel] fair uses attributes
        self.latest = None  #= self.latest: Vessel | None fair attributes
        self.by_name = {}  #= self.by_name: dict[str, Vessel] fair uses attributes
        self.known = 3  #= self.known: -

    def add(self, vessel: Vessel):
        self.vessels.append(vessel)
        self.latest = vessel
        self.by_name[self.flag.upper()] = vessel

    def grow(self):  #= -> int fair returns
        return self.size + 1

    def start(self):
        self.lead.sail()
        self.lead.moor()


Fleet("Skerry", 3, *[])
