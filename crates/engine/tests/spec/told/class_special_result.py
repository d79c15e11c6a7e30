#- in full
class Vessel:
    def __str__(self):  #! annotation.missing@9-16 "`Vessel.__str__` has no return annotation"  #! class.special-result@9-16 "`Vessel.__str__` gives `bytes`, and must give `str`"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"  #> give "give what is asked for"  #> rename "call the method something else"
        return b"Gannet"
