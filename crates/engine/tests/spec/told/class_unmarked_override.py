#- in full
#- demand marked-overrides
class Vessel:
    def length(self) -> int:  #< declared "`Vessel.length` as the base has it"
        return 10

class Barge(Vessel):
    def length(self) -> int:  #! class.unmarked-override@9-15 "`Barge.length` stands in for `Vessel.length` and is not marked with `@override`"  #> mark "mark it with `@override`"  #> rename "give it another name, if it is not meant to stand in"
        return 30
