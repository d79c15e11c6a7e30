#- main.py
"""What the target version excludes, in expressions as in statements."""
from __future__ import annotations

import sys

if sys.version_info < (3, 11):
    from exceptiongroup import ExceptionGroup

PY3 = sys.version_info[0] >= 3


def ready() -> bool:
    return sys.version_info >= (3, 99) and sys.not_yet()


if sys.version_info >= (3, 99) and sys.not_yet(): ...
text = str if PY3 else unicode
text  #= type[str]
other = unicode if PY3 else str  #! name.undefined


def told(group: ExceptionGroup[ValueError]) -> None:
    group  #= ExceptionGroup[ValueError]
    ExceptionGroup  #= type[ExceptionGroup]
