#- in full
reveal_type(len("Gannet"))  #! reveal.type@1-27 "the type is `int`"  #> convert "pass another object, or convert it first"
