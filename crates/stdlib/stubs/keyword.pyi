# Standard library reference, "keyword — Testing for Python keywords".
import sys
from collections.abc import Sequence

kwlist: Sequence[str]

def iskeyword(s: str, /) -> bool: ...
if sys.version_info >= (3, 9):
    __all__ = ["iskeyword", "issoftkeyword", "kwlist", "softkwlist"]
    softkwlist: Sequence[str]
    def issoftkeyword(s: str, /) -> bool: ...
else:
    __all__ = ["iskeyword", "kwlist"]
