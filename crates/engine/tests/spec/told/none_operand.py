#- in full
def total(fares: dict[str, int], name: str) -> int:
    return fares.get(name) + 1  #! none.operand@12-31 "`fares.get(name)` may be None here (`int | None`), and None does not go with `+`"  #> check "check `fares.get(name)` for None before use"  #> default "give a default where the None comes from"
