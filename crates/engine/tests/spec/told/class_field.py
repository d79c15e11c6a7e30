#- in full
from dataclasses import dataclass

@dataclass
class Fare:
    price: int = 3  #< declared "this field has a default"
    ticket: str  #! class.field@5-11 "`ticket` has no default and stands behind `price`, which has one"  #> default "give the field a default, or a factory for one"  #> reorder "put the fields without defaults first"
