# Standard library reference, "html — HyperText Markup Language support".
from typing import AnyStr

__all__ = ["escape", "unescape"]

def escape(s: AnyStr, quote: bool = True) -> AnyStr: ...
def unescape(s: AnyStr) -> AnyStr: ...
