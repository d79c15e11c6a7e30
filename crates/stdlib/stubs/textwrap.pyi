# Standard library reference, "textwrap — Text wrapping and filling".
from collections.abc import Callable
from re import Pattern
from typing import Any

__all__ = ["TextWrapper", "wrap", "fill", "dedent", "indent", "shorten"]

class TextWrapper:
    width: int
    initial_indent: str
    subsequent_indent: str
    expand_tabs: bool
    replace_whitespace: bool
    fix_sentence_endings: bool
    break_long_words: bool
    drop_whitespace: bool
    break_on_hyphens: bool
    tabsize: int
    max_lines: int | None
    placeholder: str
    unicode_whitespace_trans: dict[int, int]
    uspace: int
    x: str
    word_punct: str
    letter: str
    whitespace: str
    nowhitespace: str
    wordsep_re: Pattern[str]
    wordsep_simple_re: Pattern[str]
    sentence_end_re: Pattern[str]
    def __init__(
        self, width: int = 70, initial_indent: str = "", subsequent_indent: str = "", expand_tabs: bool = True, replace_whitespace: bool = True,
        fix_sentence_endings: bool = False, break_long_words: bool = True, drop_whitespace: bool = True, break_on_hyphens: bool = True,
        tabsize: int = 8, *, max_lines: int | None = None, placeholder: str = " [...]",
    ) -> None: ...
    def wrap(self, text: str) -> list[str]: ...
    def fill(self, text: str) -> str: ...

def wrap(text: str, width: int = 70, **kwargs: Any) -> list[str]: ...
def fill(text: str, width: int = 70, **kwargs: Any) -> str: ...
def shorten(text: str, width: int, **kwargs: Any) -> str: ...
def dedent(text: str) -> str: ...
def indent(text: str, prefix: str, predicate: Callable[[str], bool] | None = None) -> str: ...
