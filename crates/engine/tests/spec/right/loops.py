#- main.py
"""Loops that run at least once bind their names."""
import itertools

for i in range(5):
    pass
del i
for j in (1, 2):
    pass
print(j)


def rounds(step):
    for n in itertools.count(1):
        best = step(n)
        if best:
            break
    return best


def waits(ask):
    done = False
    while not done:
        answer = ask()
        done = answer is not None
    return answer


def counts(ask):
    tries = 0
    while tries < 3:
        answer = ask(tries)
        tries += 1
    return answer


def first():
    try:
        buf = b""
        while True:
            buf += open("x", "rb").read()
    except OSError:
        return buf


def perhaps(berths):
    for berth in berths:
        pass
    return berth  #! name.maybe-unbound


def skips(berths):
    for number in range(3):
        if number == 1:
            continue
        last = number
    return last  #! name.maybe-unbound


def none_at_all():
    for number in range(0):
        pass
    return number  #! name.maybe-unbound
