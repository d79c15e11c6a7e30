#- in full
def capacity(vessel: str) -> int:  #< declared "declared to return `int`"
    return "120"  #! value.return@12-17 "`Literal["120"]` does not fit what `capacity` declares to return, `int`"  #> convert "return what is declared"  #> widen "declare what is really returned"
