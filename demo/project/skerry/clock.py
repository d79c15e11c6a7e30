"""Times of day as minutes after midnight; dates as datetime.date."""

import datetime


def parse_time(text):
    """Minutes after midnight from a text such as "07:45"."""
    if not isinstance(text, str):
        raise TypeError("a time is a text such as 07:45")
    hours, minutes = text.split(":")
    return int(hours) * 60 + int(minutes)


def format_time(minutes):
    return "%02d:%02d" % (minutes // 60 % 24, minutes % 60)


def parse_date(text):
    """
    :param str text: a date such as 2026-07-01, or "today"
    :rtype: datetime.date
    """
    if text == "today":
        return datetime.date.today()
    year, month, day = text.split("-")
    return datetime.date(int(year), int(month), int(day))


def is_weekend(day):
    return day.weekday() >= 5


def season(day):
    if 5 <= day.month <= 9:
        return "summer"
    elif day.month in (3, 4, 10):
        return "shoulder"
    return "winter"


def stamp():
    """Used in log lines when the clock of the office is wrong."""
    return datetime.datetime.utcnw().isoformat()


def duration(start, end):
    if end < start:
        end += 24 * 60
    return end - start
