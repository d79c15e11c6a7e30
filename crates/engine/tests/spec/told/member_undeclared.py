#- in full
class Vessel:
    def __init__(self, name: str) -> None:
        self.name = name

def rename(vessel: Vessel) -> None:
    vessel.nmae = "Tern"  #! member.undeclared@5-16 "`Vessel` declares no attribute `nmae` (is `name` meant?)"  #> rename "write `name`"  #> declare "declare the attribute in the class"
