"""Reports for the office."""

from skerry import fleet, registry
from skerry.clock import format_time
from skerry.ops.timetable import Timetable


@registry.report
def departures(table):
    lines = []
    for sailing in table.sailings:
        lines.append("%s  %-12s %s" % (format_time(sailing.departs), sailing.vessel, sailing.destination))
    return lines


@registry.report
def vessels(table):
    used = set(sailing.vessel for sailing in table.sailings)
    lines = []
    for vessel in fleet.all_vessels():
        mark = "*" if vessel.name in used else " "
        lines.append(mark + " " + vessel.describe())
    return lines


@registry.report
def minutes_at_sea(table):
    per_vessel = {}
    for sailing in table.sailings:
        per_vessel[sailing.vessel] = per_vessel.get(sailing.vessel, 0) + sailing.minutes
    return ["%s: %d" % pair for pair in sorted(per_vessel.items())]


def render(name, table=None):
    """The report of that name as one text."""
    if table is None:
        table = Timetable.load()
    function = registry.get_report(name)
    if function is None:
        raise KeyError(name)
    return "\n".join(function(table))


def headline(table):
    """The flagship's name and its first departure."""
    ship = fleet.flagship()
    sailing = next((s for s in table.sailings if s.vessel == ship.name), None)
    return "%s sails at %s" % (ship.name, format_time(sailing.departs))


def averages(table):
    """Mean crossing time, for the yearly brochure."""
    times = [sailing.minutes for sailing in table.sailings]
    return {"count": len(times), "mean": sum(times) / len(times), "text": "mean " + str(sum(times) // len(times))}
