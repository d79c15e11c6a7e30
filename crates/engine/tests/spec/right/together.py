#- main.py
"""Conditions that go together: the same one asked again, and another one."""


def cond(flag, n):
    if flag:
        x = n
    if flag:
        return x


def kept(flag, n):
    check = flag is not None
    if check:
        x = n
    if check:
        return x


def changed(flag, n):
    if flag:
        x = n
    flag = not flag
    if flag:
        return x  #! name.correlated "line 21"


def otherwise(flag, n):
    if not flag:
        x = n
    if flag:
        return n
    else:
        return x


def part(flag, shown, n):
    if not flag and shown:
        x = n
    if flag and shown:
        return n
    else:
        return x  #! name.correlated


def other(flag, shown, n):
    if flag:
        x = n
    if shown:
        return x  #! name.correlated
    return x  #! name.maybe-unbound


def text(flag: bool, shown: bool) -> str:
    reason = None
    if flag:
        reason = "fog"
    if flag:
        reason.upper()
    if shown:
        return reason.upper()  #! none.correlated
    return ""


def always(flag: bool) -> str:
    reason = None
    if flag:
        reason = "fog"
    return reason.upper()  #! none.member


def pair(ok):
    if ok:
        return 1, "a"
    return None, None


def use(ok):
    number, name = pair(ok)
    if number is None:
        return
    return name.upper()  #! none.correlated


def unasked(ok):
    number, name = pair(ok)
    return name.upper()  #! none.member
