"""Bookings: who travels when."""

import itertools

from skerry import fleet
from skerry.desk import fares

_numbers = itertools.count(1001)


class Booking(object):
    def __init__(self, sailing, passengers, vehicle=None):
        """
        :param sailing: the sailing
        :param passengers: pairs of name and category
        :type passengers: list
        :param vehicle: length of the vehicle in metres, or None
        """
        self.number = next(_numbers)
        self.sailing = sailing
        self.passengers = passengers
        self.vehicle = vehicle
        self.paid = False

    def price(self, day):
        total = sum(fares.fare(day, self.sailing.minutes, category) for _, category in self.passengers)
        if self.vehicle:
            total += fares.vehicle_fare(self.vehicle)
        return total

    def names(self):
        return [name for name, _ in self.passengers]


class Ledger(object):
    def __init__(self):
        self.bookings = {}
        self.waiting = []

    def book(self, sailing, passengers, vehicle=None):
        vessel = fleet.find(sailing.vessel)
        if vessel is None:
            raise LookupError("no vessel %s" % sailing.vessel)
        if self.booked(sailing) + len(passengers) > vessel.capacity:
            self.waiting.append((sailing, passengers))
            return None
        booking = Booking(sailing, passengers, vehicle)
        self.bookings[booking.number] = booking
        return booking

    def booked(self, sailing):
        return sum(len(b.passengers) for b in self.bookings.values() if b.sailing is sailing)

    def cancel(self, number):
        booking = self.bookings.pop(number, None)
        if booking is None:
            return False
        self._promote(booking.sailing)
        return True

    def cancel_listed(self, text):
        """Cancels the bookings of a list, one number to a line, and gives how many there were."""
        return sum(self.cancel(number) for number in text.split())

    def _promote(self, sailing):
        for entry in list(self.waiting):
            waiting_sailing, passengers = entry
            if waiting_sailing is sailing:
                self.waiting.remove(entry)
                self.book(sailing, passengers)

    def rebook(self, number, sailing):
        """Moves a booking to another sailing, at the desk's discretion."""
        old = self.bookings[number]
        self.cancel(number)
        return self.book(sailing)

    def revenue(self, day):
        return sum(booking.price(day) for booking in self.bookings.values())

    def confirm(self, sailing, passengers):
        """Books and gives the number to tell the customer."""
        return self.book(sailing, passengers).number
