#- in full
class Vessel:
    @property
    def length(self) -> int:  #< declared "`length` is a property without a setter"
        return 30

Vessel().length = 40  #! member.readonly@1-16 "`length` of `Vessel` cannot be assigned: it is a property without a setter"  #> setter "give the property a setter"  #> new "make another object with the other value"
