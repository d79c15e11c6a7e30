#- in full
class Vessel:
    def is_full(self) -> bool:
        return True

def board(vessel: Vessel) -> int:
    if vessel.is_full:  #! operator.condition@8-22 "`vessel.is_full` is a function, and so always true here"  #> call "call it"  #> compare "compare with None, if that is what is asked"
        return 0
    return 1
