"""The timetable: sailings, connections, delays."""

from skerry import fleet, store
from skerry.clock import format_time, parse_time

SCHEDULED, BOARDING, SAILED, CANCELLED = "scheduled", "boarding", "sailed", "cancelled"


class Sailing(object):
    def __init__(self, vessel, origin, destination, departs, minutes):
        self.vessel = vessel
        self.origin = origin
        self.destination = destination
        self.departs = departs
        self.minutes = minutes
        self.state = SCHEDULED
        self.delay = 0

    @property
    def arrives(self):
        return self.departs + self.minutes + self.delay

    def label(self):
        return "%s %s - %s" % (format_time(self.departs), self.origin, self.destination)

    def postpone(self, minutes, reason=None):
        self.delay += minutes
        if reason is not None:
            self.reason = reason
        return self

    def cancel(self):
        self.state = CANCELLED

    def signal(self):
        """The flag to hoist."""
        if self.state == SCHEDULED:
            flag = "none"
        elif self.state == BOARDING:
            flag = "blue"
        elif self.state == SAILED:
            flag = "white"
        return flag


class Timetable(object):
    def __init__(self, sailings=()):
        self.sailings = list(sailings)

    @classmethod
    def load(cls):
        table = cls()
        for record in store.read("sailings"):
            table.add(record["vessel"], record["from"], record["to"], parse_time(record["departs"]), record["minutes"])
        return table

    def add(self, vessel, origin, destination, departs, minutes):
        sailing = Sailing(vessel, origin, destination, departs, minutes)
        self.sailings.append(sailing)
        self.sailings.sort(key=lambda s: s.departs)
        return sailing

    def from_berth(self, name):
        return [s for s in self.sailings if s.origin == name]

    def next_from(self, name, after=0):
        for sailing in self.from_berth(name):
            if sailing.departs >= after and sailing.state != CANCELLED:
                return sailing

    def connection(self, origin, destination, after=0):
        """One or two sailings that lead from here to there."""
        for first in self.from_berth(origin):
            if first.departs < after:
                continue
            if first.destination == destination:
                return [first]
            for second in self.from_berth(first.destination):
                if second.departs >= first.arrives and second.destination == destination:
                    return [first, second]
        return []

    def first_arrival(self, name):
        """When the first boat of the day comes in, as a text."""
        return format_time(self.next_from(name).arrives)

    def seats(self):
        total = 0
        for sailing in self.sailings:
            vessel = fleet.find(sailing.vessel)
            if vessel is not None:
                total = total + vessel.capacity
        return total

    def rows(self):
        rows = []
        for sailing in self.sailings:
            rows.append((sailing.label(), sailing.vessel, sailing.state))
        return rows
