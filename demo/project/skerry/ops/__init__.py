"""Operations: berths, tides, timetable, crew, weather."""

from skerry.ops.berths import Berth, Harbour
from skerry.ops.timetable import Timetable

__all__ = ["Berth", "Harbour", "Timetable"]
