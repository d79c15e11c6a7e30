#- in full
def assign(vessel: str, berth: int) -> str:  #< declared "`berth` takes `int`"
    return f"{vessel}: {berth + 1}"

assign("Gannet", "3")  #! call.argument@18-21 "`Literal["3"]` does not fit `berth` of `assign`, which takes `int`"  #> convert "convert or correct the value before the call"  #> widen "let the parameter accept this type too, and handle it"  #> check "check the value before the call"
