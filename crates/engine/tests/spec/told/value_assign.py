#- in full
capacity: int = "120"  #! value.assign@17-22 "`Literal["120"]` does not fit `capacity`, which is declared as `int`"  #> convert "convert or correct the value"  #> widen "widen the declaration"  #< declared "declared as `int`"
