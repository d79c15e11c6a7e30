"""Crew rosters. Half annotated since the new starter had a week to spare."""

from typing import Dict, List, Optional

from skerry.vessels import PassengerFerry, Vessel


class Sailor:
    def __init__(self, name: str, rank: str, hours: int = 0) -> None:
        self.name = name
        self.rank = rank
        self.hours = hours

    def work(self, hours: int) -> int:
        self.hours += hours
        return self.hours

    def is_tired(self, limit=48):
        return self.hours > limit


class Roster:
    def __init__(self) -> None:
        self.by_vessel: Dict[str, List[Sailor]] = {}
        self.reserve = []  # type: List[Sailor]

    def assign(self, vessel: Vessel, sailor: Sailor) -> None:
        self.by_vessel.setdefault(vessel.name, []).append(sailor)

    def master_of(self, vessel: Vessel) -> Optional[Sailor]:
        for sailor in self.by_vessel.get(vessel.name, []):
            if sailor.rank == "master":
                return sailor
        return None

    def strength(self, vessel: Vessel) -> int:
        return len(self.by_vessel.get(vessel.name, []))

    def hours_of(self, name: str) -> int:
        for sailors in self.by_vessel.values():
            for sailor in sailors:
                if sailor.name == name:
                    return sailor.hours
        return "unknown"

    def report(self):
        lines = []
        for vessel, sailors in sorted(self.by_vessel.items()):
            lines.append("%s: %s" % (vessel, ", ".join(s.name for s in sailors)))
        return lines


def inspect(vessels: List[Vessel]) -> List[str]:
    """Checks vessels and takes a hired barge along."""
    vessels.append(Vessel("Barge", 4, 12.0))
    return [vessel.name for vessel in vessels]


def inspect_ferries() -> List[str]:
    ferries: List[PassengerFerry] = [PassengerFerry("Tern", 60, 18.5)]
    return inspect(ferries)


def drill(roster: Roster, vessel: Vessel) -> str:
    master = roster.master_of(vessel)
    return master.name + " leads the drill"


def overtime(sailor: Sailor) -> int:
    extra: int = "0"
    if sailor.hours > 40:
        extra = sailor.hours - 40
    return extra


def relieve(roster: Roster, sailor: Sailor):
    sailor.work("8")
    roster.reserve.append(sailor)
    return roster


def stand_in(roster: Roster) -> Sailor:
    """The mate who waits ashore, or nobody."""
    for sailor in roster.reserve:
        if sailor.rank == "mate":  # leitmotiv: allow(none.member) names once
            return sailor
    return None  # the reserve may be at sea
