#- in full
class Vessel:
    def __init__(self, name):  #! annotation.missing@9-17 "`Vessel.__init__` has no annotation for `name`"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"
        self.name = name

print(Vessel("Gannet").nam)  #! member.absent@7-27 "`Vessel` has no attribute `nam` (is `name` meant?)"  #> spell "write `name`"  #> declare "declare the attribute in the class, if something else sets it"
