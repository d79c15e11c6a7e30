#- in full
port, berth, side = ("north", 3)  #! value.unpack@21-33 "`tuple[Literal["north"], Literal[3]]` has 2 values, for 3 names"  #> names "name as many as there are"  #> star "gather the rest by a star"
