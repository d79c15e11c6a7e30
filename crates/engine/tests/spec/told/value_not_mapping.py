#- in full
def fares(**prices: float) -> None:
    print(prices)

def show(by_zone: dict[int, float]) -> None:  #< declared "`by_zone` is declared as `dict[int, float]`"
    fares(**by_zone)  #! value.not-mapping@13-20 "the keys of `by_zone` are `int`, and names of arguments are `str`"  #> pass "pass it as one argument"  #> name "make texts of its keys"
