"""What is given back follows what is passed."""
import functools
import logging

HANDLERS = []
VESSELS = {}


def register(func):  #= func: _F fair; -> _F fair returns
    HANDLERS.append(func)
    return func


def named(cls):  #= cls: _C fair; -> _C fair
    VESSELS[cls.__name__] = cls
    return cls


def logged(func):  #= func: Callable[_P, _R] fair; -> Callable[_P, _R] fair
    @functools.wraps(func)
    def inner(*args, **kwargs):  #= args: _P.args fair; kwargs: _P.kwargs fair; -> _R fair
        logging.info("calling %s", func.__name__)
        return func(*args, **kwargs)
    return inner


def retried(times):  #= times: int fair; -> Callable[[Callable[_P, _R]], Callable[_P, _R]] fair
    def decorate(func):  #= func: Callable[_P, _R] fair; -> Callable[_P, _R] fair
        def inner(*args, **kwargs):
            for _ in range(times):
                result = func(*args, **kwargs)
            return result
        return inner
    return decorate


def echo(value):  #= value: _T fair; -> _T fair
    print(value)
    return value


# What is done with it says what it is.
def shout(word):  #= word: str fair; -> str fair
    logging.info(word.upper())
    return word


# Not all that is passed arrives.
def with_port(func):  #= func: Callable[..., Any] fair; -> Callable[..., Any] fair
    def inner(*args, **kwargs):
        return func("Gannet", *args, **kwargs)
    return inner


# Nor is all given back.
def counted(func):  #= func: Callable[..., Any] fair; -> Callable[..., int] fair
    def inner(*args, **kwargs):
        func(*args, **kwargs)
        return 1
    return inner


# It may give something else.
def maybe(func):  #= func: Callable[..., Any] fair
    def inner(*args, **kwargs):
        if args:
            return func(*args, **kwargs)
    return inner


# Without an argument it makes a decorator.
def optional(func=None):
    if func is None:
        return optional
    return func


@register
def sail(port: str) -> int:
    return len(port)


@logged
def moor(berth: int) -> str:
    return str(berth)


@retried(3)
def load(cars: int) -> int:
    return cars


@named
class Vessel:
    pass


@with_port
@counted
@maybe
def fare(port: str) -> int:
    return 3


echo(3)
echo("a")
shout("boarding")
#--- leitmotiv.toml
python = "3.11"
