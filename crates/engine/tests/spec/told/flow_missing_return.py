#- in full
def berth(name: str) -> int:  #! flow.missing-return@5-10 "`berth` may end without a `return`, and declares to return `int`"  #> return "return a value on every way"  #> raise "raise an exception on that way"  #> annotate "say that it may be None"  #< declared "declared to return `int`"
    if name == "Tern":
        return 3
