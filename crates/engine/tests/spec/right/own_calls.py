#- main.py
"""What an object's own methods do to its attributes."""


class Conn:
    def close(self):
        pass


class Base:
    CONN = Conn

    def make(self):
        return self.CONN()

    def persist(self):
        self.CONN = self.make()


class Child(Base):
    def plain(self):
        self.CONN = Conn

    def test(self):
        self.persist()
        c = self.CONN
        c.close()

    def test2(self):
        self.CONN = Conn
        self.persist()
        c = self.CONN
        c.close()


class Line:
    def __init__(self):
        self.sock = None
        self.name = None

    def connect(self):
        self._open()

    def _open(self):
        self.sock = open("x")

    def go(self):
        if self.sock is None:
            self.connect()
        self.sock.read()

    def again(self):
        self.sock = None
        self.connect()
        self.sock.read()

    def close(self):
        self.sock = None

    def named(self):
        self.name = "x" if self.sock else None

    def never(self):
        self.sock = None
        self.close()
        self.sock.read()  #! none.correlated


class Log:
    out = None

    def __init__(self, n=""):
        if n:
            self.out = open(n)
        else:
            self.out = open("x")

    def say(self, t):
        self.out.write(t)

    def other(self):
        if self.out:
            print()


class Half:
    out = None

    def __init__(self, n=""):
        if n:
            self.out = open(n)

    def say(self, t):
        self.out.write(t)  #! none.correlated


class Counter:
    def __init__(self) -> None:
        self.n = 0
        self.s = ""

    def tick(self) -> None:
        self.n += 1
        self.s = self.s.strip()


def counted(c: Counter) -> None:
    c.n  #= int
    c.s  #= str
    c.n.nope  #! member.absent


class Loop:
    def __init__(self):
        self.poller = self.poller()


class Epoll(Loop):
    poller = Conn

    def stop(self):
        self.poller.close()
