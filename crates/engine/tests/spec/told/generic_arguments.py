#- in full
fares: list[str, int] = []  #! generic.arguments@8-22 "`list` takes 1 type argument, 2 given"  #> fewer "give as many as it takes; of elements that are of several types, their union"  #> other "use the class that was meant"
