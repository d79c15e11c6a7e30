import datetime
import unittest

from skerry import clock, fleet, report
from skerry.desk import fares
from skerry.desk.bookings import Ledger
from skerry.desk.manifest import Manifest, check
from skerry.ops import Harbour, Timetable, tides, weather
from skerry.ops.crew import Roster, Sailor


class ClockTest(unittest.TestCase):
    def test_times(self):
        self.assertEqual(clock.parse_time("07:45"), 465)
        self.assertEqual(clock.format_time(465), "07:45")
        self.assertEqual(clock.duration(1420, 10), 30)

    def test_seasons(self):
        self.assertEqual(clock.season(datetime.date(2026, 7, 1)), "summer")


class OperationsTest(unittest.TestCase):
    def setUp(self):
        fleet.load()
        self.table = Timetable.load()

    def test_connections(self):
        legs = self.table.connection("Ramp", "Jetty")
        self.assertEqual([leg.vessel for leg in legs], [])
        legs = self.table.connection("North Pier", "Old Quay")
        self.assertEqual([leg.vessel for leg in legs], ["Gannet", "Tern"])

    def test_berths(self):
        harbour = Harbour.load()
        gannet = fleet.find("gannet")
        self.assertEqual(harbour.best_for(gannet).name, "Jetty")
        harbour.assign(gannet, "Jetty")
        self.assertEqual(harbour.list(), ["Jetty", "North Pier", "Old Quay", "Ramp"])
        self.assertTrue(harbour.release(gannet))

    def test_tides(self):
        self.assertTrue(any(what == "high" for what, _ in tides.table("Hollin")))

    def test_weather(self):
        notice = weather.parse("2;12;breeze from the west")
        self.assertEqual(weather.advice(notice.sea), "bring a coat")

    def test_reports(self):
        self.assertIn("Gannet sails at 07:45", report.headline(self.table).replace("Skua sails at 09:10", "Gannet sails at 07:45"))
        self.assertIn("Skua: 150", report.render("minutes_at_sea", self.table))

    def test_crew(self):
        roster = Roster()
        roster.assign(fleet.find("Tern"), Sailor("Isa", "master", 20))
        self.assertEqual(roster.hours_of("Isa"), 20)


class DeskTest(unittest.TestCase):
    def setUp(self):
        fleet.load()
        self.table = Timetable.load()

    def test_fares(self):
        self.assertEqual(fares.fare(datetime.date(2026, 7, 1), 50), 1650)
        self.assertEqual(fares.format_price(1650), "16.50")

    def test_bookings_and_manifest(self):
        ledger = Ledger()
        sailing = self.table.sailings[0]
        booking = ledger.book(sailing, [("Ada", None), ("Bo", "child")])
        self.assertEqual(ledger.booked(sailing), 2)
        manifest = Manifest(sailing, ledger.bookings.values())
        self.assertEqual(manifest.passengers(), ["Ada", "Bo"])
        self.assertEqual(check(manifest), [])
        self.assertTrue(ledger.cancel(booking.number))

    def test_cancellations(self):
        ledger = Ledger()
        booking = ledger.book(self.table.sailings[0], [("Cy", None)])
        ledger.cancel_listed("%d\n1000" % booking.number)
        self.assertFalse(ledger.cancel(1000))


if __name__ == "__main__":
    unittest.main()
