#- in full
from typing import overload

@overload
def berth_of(vessel: str) -> int: ...  #< declared "for `vessel` this one takes `str`, not `float`"
@overload
def berth_of(vessel: int, tide: int) -> str: ...  #< declared "this one needs `tide`"
def berth_of(vessel, tide=0):  #! annotation.missing@5-13 "`berth_of` has no annotation for `vessel`, `tide` and its return"  #> annotate "let `leitmotiv annotate` write what there is evidence for"  #> object "annotate with `object` what really takes anything"
    return vessel

berth_of(2.5)  #! call.overload@10-13 "none of the 2 signatures of `berth_of` takes these arguments"  #> convert "give what one of the signatures takes"  #> form "add a signature for these arguments"
