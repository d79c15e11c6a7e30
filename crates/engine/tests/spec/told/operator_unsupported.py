#- in full
def label(berth: int) -> str:  #< declared "`berth` is declared as `int`"
    return "berth " + berth  #! operator.unsupported@12-28 "`+` does not go with `str` and `int`"  #> convert "convert one operand"  #> check "check the operand before use"
