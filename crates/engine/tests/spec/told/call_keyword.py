#- in full
def assign(vessel):  #! annotation.missing@5-11 "`assign` has no annotation for `vessel` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"  #< declared "`assign` takes these parameters"
    return vessel

assign(vesel="Gannet")  #! call.keyword@14-22 "`assign` has no parameter `vesel` (is `vessel` meant?)"  #> rename "write `vessel=`"  #> take "let the function take it"
