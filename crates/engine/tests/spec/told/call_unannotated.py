#- in full
#- demand typed-callees
def fare(distance, rate):  #< declared "`fare` is defined here, without annotations"
    return distance * rate

def price(distance: float) -> float:
    return fare(distance, 2.5) + 1  #! call.unannotated@12-16 "`fare` has no annotations, and annotated code calls it"  #> annotate "annotate the function that is called"
