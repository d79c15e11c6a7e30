#- in full
class Route(3):  #! class.base@13-14 "`Literal[3]` is no class, and cannot be a base"  #> remove "take it out of the bases, or put the class there that is meant"
    pass
