class Vessel:
    kind = "vessel"

    def __init__(self, name, capacity=120):
        self.name = name
        self.capacity = capacity
        self.log = []
        self.berth = None
        self.depth = 3

    def moor(self, berth: int):
        self.berth = berth
        self.log.append("moored")

    @property
    def half(self):
        return self.depth / 2

    @classmethod
    def make(cls):
        return cls("Gannet")

    @staticmethod
    def count():
        return 3


vessel = Vessel("Tern")
vessel.kind  #= str
vessel.depth  #= int
vessel.log  #= list[str]
vessel.berth  #= int | None
vessel.half  #= float
vessel.capcity  #! member.absent "is `capacity` meant?"
Vessel.make()  #= Vessel
Vessel.count()  #= int


class Ferry(Vessel):
    def moor(self, berth: int):
        super().moor(berth)
        self.cars = {}

    def load(self, car: str, length: float):
        self.cars[car] = length


Ferry("Skua").cars  #= dict[str, float]
Ferry("Skua").depth  #= int


class Struct:
    def __init__(self, **values):
        self.__dict__.update(values)


Struct(a=1).a


class Patched:
    pass


Patched.extra = 3
Patched().extra


def helper(self, n: int) -> str:
    return ""


class Holder:
    held = helper


Holder().held(3)  #= str
Holder().held("x")  #! call.argument


class Plain:
    pass


def probing(plain: Plain):
    try:
        plain.wings
        maybe_defined
    except (AttributeError, NameError):
        pass
    plain.wings  #! member.absent
