#- in full
def moor(rope: str) -> None:  #< declared "`rope` is declared as `str`"
    with rope:  #! value.not-context-manager@10-14 "`rope` is `str` here, which has no `__enter__`"  #> other "enter something that is one"  #> define "give the class both methods"
        pass
