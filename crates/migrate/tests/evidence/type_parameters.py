"""Where the language has type parameters (PEP 695)."""


def register(func):  #= func: F2 fair; -> F2 fair returns
    return func


def logged(func):  #= func: Callable[P, R] fair; -> Callable[P, R] fair
    def inner(*args, **kwargs):  #= args: P.args fair; kwargs: P.kwargs fair; -> R fair
        return func(*args, **kwargs)
    return inner


def twice(times):  #= times: int fair; -> -
    def decorate(func):  #= func: F2 fair; -> F2 fair
        print(times)
        return func
    return decorate


@register
@logged
@twice(2)
def sail(port: str) -> int:
    return len(port)


F = 3  # The name is taken.
#--- leitmotiv.toml
python = "3.12"
