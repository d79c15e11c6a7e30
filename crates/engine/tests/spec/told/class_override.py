#- in full
class Vessel:
    def severity(self, scale: int = 1) -> int:  #< declared "`Vessel.severity` as the base has it"
        return scale

class Barge(Vessel):
    def severity(self) -> int:  #! class.override@9-17 "`Barge.severity` cannot stand in for `Vessel.severity`: it does not take `scale`"  #> accept "take what the base takes"  #> rename "give the method another name"
        return 10
