#- in full
from typing import Protocol

class Floats(Protocol):
    def draught(self) -> float: ...  #< declared "the protocol asks for `draught`"

class Buoy:
    def draught(self) -> str:
        return "shallow"

def moor(vessel: Floats) -> None: ...  #< declared "`vessel` takes `Floats`"

moor(Buoy())  #! class.protocol@6-12 "`Buoy` does not fit `vessel` of `moor`, which takes `Floats`; of its `draught`, it gives `str`, not `float`"  #> give "give the class the member as the protocol has it"  #> ask-less "let the protocol ask for less"
