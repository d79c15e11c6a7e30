#- in full
def find(vessels: dict[str, str], name: str) -> str:
    return vessels.get(name).upper()  #! none.member@12-35 "`vessels.get(name)` may be None here (`str | None`), and None has no attribute `upper`"  #> check "check `vessels.get(name)` for None before use"  #> assert "assert that it is not None, if you know better"  #> default "give a default where the None comes from"
