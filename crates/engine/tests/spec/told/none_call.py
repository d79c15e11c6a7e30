#- in full
from typing import Callable, Optional

def ring(bell: Optional[Callable[[], int]]) -> int:  #< declared "`bell` is declared as `Optional[Callable[[], int]]`"
    return bell()  #! none.call@12-16 "`bell` may be None here (`(() -> int) | None`), and None cannot be called"  #> default "give a default where the None comes from"  #> check "check `bell` for None before use"
