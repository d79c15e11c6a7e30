#- in full
def assign(berth: int) -> int:  #< declared "`berth` takes `int`"
    return berth

def moor(berths: dict[str, int], name: str) -> int:
    return assign(berths.get(name))  #! none.argument@19-35 "`berths.get(name)` may be None here (`int | None`), and None does not fit `berth` of `assign`, which takes `int`"  #> check "check `berths.get(name)` for None before use"  #> parameter "let the parameter accept None, and handle it"  #> default "give a default where the None comes from"
