#- in full
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import harbour.moorings  #! import.untyped@12-28 "module `harbour.moorings` has no types"  #> stub "write a stub: leitmotiv stub write harbour"  #> upgrade "look for a release of the package with types, or a stub package"

def moor(at: "harbour.moorings.Mooring") -> None: ...
