#- in full
def assign(vessel, berth):  #! annotation.missing@5-11 "`assign` has no annotation for `vessel`, `berth` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"  #< declared "`berth` needed here"
    return f"{vessel} to {berth}"

assign("Gannet")  #! call.missing@1-17 "the call of `assign` leaves out the argument `berth`"  #> give "give `berth`"  #> default "give the parameter a default"
