#- in full
class Vessel:
    pass

class Ferry(Vessel):
    pass

class Barge(Vessel, Ferry):  #! class.order@7-12 "the bases `type[Vessel]`, `type[Ferry]` cannot be brought into one order"  #> reorder "put derived bases before those that they derive from"
    pass
