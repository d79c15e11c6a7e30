"""The command line of the office."""

import argparse

from skerry import VERSION, fleet, registry, report
from skerry.clock import parse_date, parse_time
from skerry.desk import fares
from skerry.ops import Harbour, Timetable
from skerry.ops import tides


@registry.command("timetable", "print today's sailings")
def timetable(options):
    table = Timetable.load()
    for label, vessel, state in table.rows():
        print("%-32s %-8s %s" % (label, vessel, state))
    return 0


@registry.command("report", "print a report")
def print_report(options):
    print(report.render(options.name))
    return 0


@registry.command("fare", "what a crossing costs")
def fare(options):
    price = fares.fare(parse_date(options.day), options.minutes, options.category)
    print(fares.format_price(price))
    return 0


@registry.command("tides", "high and low water at an island")
def print_tides(options):
    for what, hour in tides.table(options.island):
        print("%-5s %05.2f" % (what, hour))
    return 0


@registry.command("moor", "find a berth for a vessel")
def moor(options):
    harbour = Harbour.load()
    vessel = fleet.find(options.vessel)
    if vessel is None:
        print("no vessel %s" % options.vessel)
        return 1
    berth = harbour.best_for(vessel)
    if berth is None:
        print("no berth is free")
        return 1
    harbour.assign(vessel, berth.name)
    print("%s to %s" % (vessel.name, berth.name))
    return 0


@registry.command("next", "the next sailing from a berth")
def next_sailing(options):
    sailing = Timetable.load().next_from(options.berth, parse_time(options.after))
    print(sailing.label() if sailing else "no more sailings today")
    return 0


def build_parser():
    parser = argparse.ArgumentParser(prog="skerry", description="Skerry Lines " + VERSION)
    commands = parser.add_subparsers(dest="command")
    for name, help_text in registry.commands():
        sub = commands.add_parser(name, help=help_text)
        if name == "report":
            sub.add_argument("name", choices=registry.reports())
        elif name == "fare":
            sub.add_argument("--day", default="today")
            sub.add_argument("--minutes", type=int, default=50)
            sub.add_argument("--category", default=None)
        elif name == "tides":
            sub.add_argument("island")
        elif name == "moor":
            sub.add_argument("vessel")
        elif name == "next":
            sub.add_argument("berth")
            sub.add_argument("--after", default="00:00")
    return parser


def main(argv=None):
    fleet.load()
    options = build_parser().parse_args(argv)
    if options.command is None:
        options.command = "timetable"
    return registry.get_command(options.command)(options)
