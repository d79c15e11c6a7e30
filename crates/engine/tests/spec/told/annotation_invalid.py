#- in full
def tonnage(vessel: 12) -> int:  #! annotation.invalid@21-23 "not a type: a value stands where a type is expected"  #> correct "write the type that is meant"  #> rename "rename what hides the type, or name the type through its module (`builtins.list`)"
    return 3
