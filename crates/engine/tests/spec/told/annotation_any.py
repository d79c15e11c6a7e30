#- in full
#- demand no-any
from typing import Any

def label(berth: Any) -> str:  #! annotation.any@18-21 "`Any` here keeps what it stands for from being checked"  #> object "annotate with `object` what really may be anything"  #> name "name the type that is meant: a union, a protocol, a type variable"
    return f"berth {berth}"
