"""Fares in pence."""

from skerry.clock import is_weekend, season

BASE = {"summer": 1450, "shoulder": 1150, "winter": 900}
CHILD, SENIOR, ISLANDER = "child", "senior", "islander"

DISCOUNTS = {CHILD: 0.5, SENIOR: 0.3, ISLANDER: 0.4}


def fare(day, minutes, category=None):
    price = BASE[season(day)] + minutes * 4
    if is_weekend(day):
        price += 150
    if category is not None:
        price = price * (1 - DISCOUNTS[category])
    return int(round(price))


def vehicle_fare(length, height=1.9):
    price = 2200 + max(0, length - 4) * 600
    if height > 2.1:
        price *= 1.25
    return int(price)


def format_price(pence):
    return "%d.%02d" % (pence // 100, pence % 100)


def receipt(passengers, day, minutes):
    lines = []
    total = 0
    for name, category in passengers:
        price = fare(day, minutes, category)
        total += price
        lines.append(name + ": " + format_price(price))
    lines.append("total: " + format_price(total))
    return "\n".join(lines)


def short_label(day, minutes):
    """For the ticket machine's small display."""
    return "fare " + fare(day, minutes)


def group_fare(size, day, minutes):
    if size < 10:
        raise ValueError("a group is ten or more")
    each = fare(day, minutes)
    return int(size * each * 0.8)
