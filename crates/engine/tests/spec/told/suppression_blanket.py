#- in full
count = 3  # type: ignore  #! suppression.blanket@12-26 "this hides every finding of the line, whatever it is"  #> name "name the rules that are hidden, and why"
