#- in full
def assign(vessel):  #! annotation.missing@5-11 "`assign` has no annotation for `vessel` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"  #< declared "`assign` takes these parameters"
    return vessel

assign("Gannet", 3)  #! call.surplus@18-19 "`assign` takes 1 positional argument, 2 given"  #> leave-out "leave the argument out"  #> take "let the function take it"
