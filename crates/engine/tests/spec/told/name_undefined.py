#- in full
def fare(distance):  #! annotation.missing@5-9 "`fare` has no annotation for `distance` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"
    return distence * 2  #! name.undefined@12-20 "`distence` is not defined (is `distance` meant?)"  #> spell "write `distance`"  #> define "define or import the name"
