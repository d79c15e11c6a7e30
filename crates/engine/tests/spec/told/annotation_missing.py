#- in full
def fare(distance: float):  #! annotation.missing@5-9 "`fare` has no return annotation"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"
    return distance * 2
