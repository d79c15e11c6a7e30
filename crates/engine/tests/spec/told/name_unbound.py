#- in full
def board() -> int:
    number = count  #! name.unbound@14-19 "nothing is bound to `count` on any way here"  #> order "bind the name first"
    count = 3
    return number + count
