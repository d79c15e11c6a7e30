#- in full
def depart(full: bool) -> str:
    if full:
        return "now"
    return "later"
    print("left")  #! flow.unreachable@5-18 "this is never reached"  #> remove "take the code out"  #> move "move it to where it is meant to run"
