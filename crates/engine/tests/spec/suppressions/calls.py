#- main.py
"""A comment at the first or the last line of a call holds for its arguments."""


class Base: ...


def go(c: type[Base]) -> Base:
    return c(  # type: ignore[foreign-code]
        size=1,
    )


def last(c: type[Base]) -> Base:
    return c(
        size=1,
    )  # type: ignore[foreign-code]


def ours(c: type[Base]) -> Base:
    return c(  # leitmotiv: allow(call.keyword) made elsewhere
        size=1,
    )


def told(c: type[Base]) -> Base:
    c()  # type: ignore[foreign-code]
    return c(
        size=1,  #! call.keyword
    )
