"""Manifests: what goes on board, and the papers for it."""

import csv
import io

from skerry import fleet


SEPARATOR = "--\n"


class Manifest(object):
    def __init__(self, sailing, bookings):
        self.sailing = sailing
        self.bookings = [b for b in bookings if b.sailing is sailing]

    def passengers(self):
        names = []
        for booking in self.bookings:
            names.extend(booking.names())
        return sorted(names)

    def vehicles(self):
        return [b.vehicle for b in self.bookings if b.vehicle]

    def load_factor(self):
        vessel = fleet.find(self.sailing.vessel)
        return len(self.passengers()) / float(vessel.capacity)

    def to_csv(self):
        out = io.StringIO()
        writer = csv.writer(out)
        writer.writerow(["number", "name", "category"])
        for booking in self.bookings:
            for name, category in booking.passengers:
                writer.writerow([booking.number, name, category or "adult"])
        return out.getvalue()

    def summary(self):
        return {
            "sailing": self.sailing.label(),
            "passengers": len(self.passengers()),
            "vehicles": len(self.vehicles()),
        }


def check(manifest):
    """Problems with a manifest, as a list of texts."""
    problems = []
    vessel = fleet.find(manifest.sailing.vessel)
    if vessel is None:
        return ["no such vessel"]
    if len(manifest.passengers()) > vessel.capacity:
        problems.append("too many passengers")
    if manifest.vehicles() and not hasattr(vessel, "vehicle_capacity"):
        problems.append("vehicles on a vessel without deck")
    return problems


def export(manifests, path):
    """Writes all manifests into one file; kept for the customs office."""
    with open(path, "w") as file:
        for manifest in manifests:
            file.write(manifest.to_csv())
            file.write(SEPERATOR)
    return path
