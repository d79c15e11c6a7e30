#- in full
#- demand known-values
def price(distance, rate: float) -> float:  #< declared "`distance` has no annotation"
    return rate * distance.miles  #! unknown.value@19-27 "what `distance` is cannot be told, because of a parameter without annotation (`distance`); so are 2 more values here"  #> annotate "say what it is where it comes from: by an annotation, or by a stub for a module without types"
