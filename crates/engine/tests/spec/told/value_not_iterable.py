#- in full
def count(berths: int) -> None:  #< declared "`berths` is declared as `int`"
    for berth in berths:  #! value.not-iterable@18-24 "`berths` is `int` here, which cannot be iterated"  #> convert "iterate something that can be"  #> define "give the class an `__iter__`"
        print(berth)
