"""Records on disk: one JSON file each, with a few built in so that the program runs out of the box."""

import json
import os

FOLDER = os.environ.get("SKERRY_DATA", "")

_BUILT_IN = {
    "fleet": [
        {"kind": "passenger", "name": "Gannet", "capacity": 140, "length": 32.0, "cafe": True},
        {"kind": "passenger", "name": "Tern", "capacity": 60, "length": 18.5},
        {"kind": "car", "name": "Skua", "capacity": 220, "length": 61.0, "lanes": 4},
        {"kind": "freight", "name": "Dunlin", "tonnage": 480, "length": 44.0},
    ],
    "berths": [
        {"name": "North Pier", "depth": 4.5, "length": 40.0, "island": "Hollin"},
        {"name": "Old Quay", "depth": 3.0, "length": 25.0, "island": "Hollin"},
        {"name": "Ramp", "depth": 5.0, "length": 70.0, "island": "Marrow"},
        {"name": "Jetty", "depth": 3.2, "length": 35.0, "island": "Little Marrow"},
    ],
    "sailings": [
        {"vessel": "Gannet", "from": "North Pier", "to": "Jetty", "departs": "07:45", "minutes": 50},
        {"vessel": "Skua", "from": "Ramp", "to": "North Pier", "departs": "09:10", "minutes": 75},
        {"vessel": "Tern", "from": "Jetty", "to": "Old Quay", "departs": "12:30", "minutes": 45},
        {"vessel": "Gannet", "from": "Jetty", "to": "North Pier", "departs": "17:20", "minutes": 50},
        {"vessel": "Skua", "from": "North Pier", "to": "Ramp", "departs": "19:00", "minutes": 75},
    ],
}


def _path(name, path=None):
    if path:
        return path
    return os.path.join(FOLDER, name + ".json")


def read(name, path=None):
    where = _path(name, path)
    if os.path.exists(where):
        with open(where) as file:
            return json.load(file)
    return _BUILT_IN.get(name, [])


def write(name, records, path=None):
    where = _path(name, path)
    with open(where, "w") as file:
        json.dump(records, file, indent=1)
    return where


def size_of(name):
    """Bytes on disk, for the nightly report."""
    where = _path(name)
    if not os.path.exists(where):
        return "none"
    return os.path.getsize(where)
