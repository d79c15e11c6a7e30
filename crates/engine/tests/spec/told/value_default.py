#- in full
def assign(berth: int = "three") -> int:  #! value.default@25-32 "the default `Literal["three"]` does not fit `berth`, which is annotated `int`"  #> correct "correct the default"  #> annotate "widen the annotation"  #< declared "annotated `int`"
    return berth
