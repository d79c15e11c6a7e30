"""Vessels: what they are and what they can carry."""


class Vessel(object):
    """Anything that floats and has a berth."""

    kind = "vessel"

    def __init__(self, name, capacity, length, draught=2.5):
        self.name = name
        self.capacity = capacity
        self.length = length
        self.draught = draught
        self.berth = None
        self.log = []
        self.in_service = True

    def moor(self, berth):
        self.berth = berth
        self.log.append("moored at %s" % berth.name)

    def cast_off(self):
        if self.berth is None:
            return False
        self.log.append("cast off from %s" % self.berth.name)
        self.berth = None
        return True

    def can_carry(self, passengers, vehicles=0):
        return passengers <= self.capacity and vehicles == 0

    def describe(self):
        return "%s (%s, %d passengers)" % (self.name, self.kind, self.capacity)

    def spare_room(self, booked):
        """Seats left over; the desk asks for it by telephone."""
        return self.capcity - booked

    def __repr__(self):
        return "<%s %s>" % (type(self).__name__, self.name)


class PassengerFerry(Vessel):
    kind = "passenger ferry"

    def __init__(self, name, capacity, length, draught=2.5, has_cafe=False):
        super().__init__(name, capacity, length, draught)
        self.has_cafe = has_cafe

    def describe(self):
        text = super().describe()
        if self.has_cafe:
            text += ", cafe"
        return text


class CarFerry(Vessel):
    kind = "car ferry"

    def __init__(self, name, capacity, length, lanes, draught=3.5):
        Vessel.__init__(self, name, capacity, length, draught)
        self.lanes = lanes

    @property
    def vehicle_capacity(self):
        return int(self.lanes * self.length / 6)

    def can_carry(self, passengers, vehicles, trailers):
        if vehicles + 2 * trailers > self.vehicle_capacity:
            return False
        return passengers <= self.capacity


class Freighter(Vessel):
    kind = "freighter"

    def __init__(self, name, tonnage, length):
        super(Freighter, self).__init__(name, 12, length, 4.2)
        self.tonnage = tonnage

    def describe(self):
        return self.name + ": " + self.tonnage.__str__() + " t"


def make(record):
    """A vessel from a record as it stands in the fleet's file."""
    kind = record["kind"]
    if kind == "passenger":
        return PassengerFerry(record["name"], record["capacity"], record["length"], has_cafe=record.get("cafe", False))
    if kind == "car":
        return CarFerry(record["name"], record["capacity"], record["length"], record["lanes"])
    if kind == "freight":
        return Freighter(record["name"], record["tonnage"], record["length"])
    raise ValueError("unknown kind of vessel: %r" % kind)
