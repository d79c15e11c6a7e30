#- in full
from typing import Optional

def berth(vessel: Optional[int, str]) -> int:  #! annotation.form@19-37 "`Optional` takes one argument, not 2"  #> correct "give the form what it takes"  #> union "write several types with `|` between them"
    return 3
