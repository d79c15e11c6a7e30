#- in full
def line(berth: str) -> str:
    return "berth %d" % berth  #! value.format@25-30 "`%d` takes a number, and not `str`"  #> text "ask for what is given"  #> values "give what is asked for"
