"""Weather as the harbour office sends it, and what it means for sailings."""

import enum


class Sea(enum.Enum):
    CALM = 1
    CHOPPY = 2
    ROUGH = 3
    STORM = 4


class Notice(object):
    def __init__(self, text, sea=Sea.CALM, wind=0):
        self.text = text
        self.sea = sea
        self.wind = wind

    def headline(self):
        return self.text.splitlines()[0]

    def severity(self, scale=1):
        return self.sea.value * scale


class GaleNotice(Notice):
    def __init__(self, text, wind):
        super().__init__(text, Sea.STORM, wind)

    def severity(self):
        return 10


def advice(sea):
    """What to tell passengers."""
    if sea is Sea.CALM:
        return "as timetabled"
    elif sea is Sea.CHOPPY:
        return "bring a coat"
    elif sea is Sea.ROUGH:
        return "expect delays"


def parse(line):
    """A notice from a line such as `3;18;fresh breeze`."""
    sea, wind, text = line.split(";", 2)
    if int(wind) > 40:
        return GaleNotice(text, int(wind))
    return Notice(text, Sea(int(sea)), int(wind))


def worst(notices):
    worst_so_far = None
    for notice in notices:
        if worst_so_far is None or notice.severity() > worst_so_far.severity():
            worst_so_far = notice
    return worst_so_far


def bulletin(notices):
    return worst(notices).headline().upper()
