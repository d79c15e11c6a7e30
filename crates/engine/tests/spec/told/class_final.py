#- in full
from typing import final

@final  #< declared "marked as final here"
class Tide:
    pass

class SpringTide(Tide):  #! class.final@18-22 "`type[Tide]` is final: no class may derive from it"  #> other "hold an object of the class instead of deriving from it"  #> open "take the mark away, if it is yours"
    pass
