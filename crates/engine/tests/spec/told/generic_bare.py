#- in full
#- demand filled-generics
def longest(names: list) -> int:  #! generic.bare@20-24 "`list` does not say what it is of"  #> fill "write the arguments"  #> object "write `object` for elements that nothing is asked of"
    return max(len(name) for name in names)
