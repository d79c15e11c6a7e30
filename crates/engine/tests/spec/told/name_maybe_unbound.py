#- in full
def flag(speed: int) -> str:
    if speed > 20:
        colour = "red"  #< assigned "`colour` is bound here, on one way only"
    return colour  #! name.maybe-unbound@12-18 "`colour` is not bound on every way here"  #> start "bind a value before the branch or loop"  #> else "bind it on the other way as well"
