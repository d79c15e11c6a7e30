# The module html.entities, after the library reference ("html.entities").
name2codepoint: dict[str, int]
html5: dict[str, str]
codepoint2name: dict[int, str]
entitydefs: dict[str, str]
