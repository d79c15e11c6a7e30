#- in full
from typing import Iterator

def berths(count: int) -> Iterator[int]:  #< declared "declared to yield `int`"
    for berth in range(count):
        yield str(berth)  #! value.yield@15-25 "`str` does not fit what `berths` declares to yield, `int`"  #> convert "yield what is declared"  #> declare "declare what is really yielded"
