#- in full
from typing_extensions import deprecated

@deprecated("ask the harbour office")
def tide(hour: int) -> float:  #< declared "`tide` is marked as deprecated here"
    return 1.5

print(tide(6))  #! deprecated.use@7-11 "`tide` is deprecated: ask the harbour office"  #> replace "use what the message names"
