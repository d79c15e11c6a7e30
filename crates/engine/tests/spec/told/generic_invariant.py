#- in full
def total(prices: list[float]) -> float:  #< declared "`prices` takes `list[float]`"
    return sum(prices)

def sell(prices: list[int]) -> float:  #< declared "`prices` is declared as `list[int]`"
    return total(prices)  #! generic.invariant@18-24 "`list[int]` does not fit `prices` of `total`, which takes `list[float]`; `2.5` could then be put among its `int`"  #> base "ask for `Sequence[float]`, which is only read"  #> exact "declare the container with just these elements where it is made"  #> copy "pass a copy"
