def fact(n):
    if n < 2:
        return 1
    return n * fact(n - 1)


def numbers():
    yield 1
    yield 2


list(numbers())  #= list[int]


async def fetch():
    return "text"


async def use():
    text = await fetch()
    text  #= str


def nothing():
    pass


nothing()  #= None


def outer():
    name = "Gannet"

    def inner():
        return name

    return inner()  #= str


shout = lambda text: text
shout("x")


def declared(flag: bool) -> int:
    if flag:
        return "x"  #! value.return "does not fit what `declared` declares to return, `int`"
    return 3


COUNT = 0


def bump():
    global COUNT
    COUNT += 1
    return COUNT


bump()  #= int
