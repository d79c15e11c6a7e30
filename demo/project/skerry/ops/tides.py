"""Tides at the islands, with tidelib."""

import tidelib

_CONSTITUENTS = {
    "Hollin": [(12.42, 1.6, 0.4), (12.0, 0.5, 1.1)],
    "Marrow": [(12.42, 1.9, 0.2), (12.0, 0.6, 0.9)],
    "Little Marrow": [(12.42, 1.4, 0.5), (25.82, 0.2, 0.0)],
}

_stations = {}


def station(island):
    if island not in _stations:
        _stations[island] = tidelib.station(island, _CONSTITUENTS[island], 2.1)
    return _stations[island]


def height(island, minutes):
    return station(island).height(minutes / 60.0)


def is_safe(island, minutes, berth, vessel):
    """Whether there is enough water for a vessel at a berth."""
    return berth.depth + height(island, minutes) - 2.1 > vessel.draught + 0.5


def table(island):
    """Hours of high and low water as a list of pairs."""
    here = station(island)
    rows = [("high", hour) for hour in tidelib.high_waters(here)]
    rows += [("low", hour) for hour in tidelib.low_waters(here)]
    rows.sort(key=lambda row: row[1])
    return rows


def next_high(island, minutes):
    for what, hour in table(island):
        if what == "high" and hour * 60 > minutes:
            return hour * 60
    return None


def wait_for_water(island, minutes):
    """How long to wait for high water, in minutes."""
    return next_high(island, minutes) - minutes
