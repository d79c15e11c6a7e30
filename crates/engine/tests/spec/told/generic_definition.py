#- in full
from typing import TypeVar

DepthT = TypeVar("BerthT")  #! generic.definition@18-26 "the variable is called `DepthT` here and says that it is `BerthT`"  #> correct "say one thing"
