#- in full
class Vessel:
    name = "Tern"

Vessel()[0]  #! index.unsupported@1-12 "`Vessel` has no items"  #> attribute "read an attribute instead"  #> define "give the class a `__getitem__`"
