#- in full
berths = {[1, 2]: "Gannet"}  #! value.unhashable@11-17 "`[1, 2]` is `list[int]` here, which has no hash"  #> freeze "use a tuple, a `frozenset`, or a frozen dataclass"  #> define "give the class a `__hash__`"
