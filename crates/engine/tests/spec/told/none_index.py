#- in full
import re

def number(text: str) -> str:
    return re.match("([0-9]+)", text)[1]  #! none.index@12-41 "`re.match("([0-9]+)", text)` may be None here (`Match[str] | None`), and None has no items"  #> check "check `re.match("([0-9]+)", text)` for None before use"  #> default "give a default where the None comes from"
