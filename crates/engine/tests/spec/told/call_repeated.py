#- in full
def assign(berth, vessel):  #! annotation.missing@5-11 "`assign` has no annotation for `berth`, `vessel` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"  #< declared "`assign` takes it once"
    return berth, vessel

assign(3, berth=4)  #! call.repeated@17-18 "`berth` of `assign` is given twice"  #> drop "leave one of the two out"
