#- in full
def flag(speed: int, is_shown: bool) -> str:
    if speed > 20:
        colour = "red"  #< assigned "`colour` is bound here"
    if is_shown:
        return colour  #! name.correlated@16-22 "`colour` is bound in line 3 under another condition than it is read under here"  #> start "bind a value before the conditions"  #> same "ask the same condition"
    return ""
