#- in full
from typing import TypeVar

T = TypeVar("T")  #< declared "`T` is defined here"
last_seen: list[T] = []  #! generic.scope@12-19 "`T` means nothing here: neither a function nor a class around is generic in it"  #> concrete "write the type that is meant"  #> object "say `object` where anything may be"
