"a" + 1  # type: ignore
"a" + 1  # type: ignore[operator.unsupported]
"a" + 1  # type: ignore[call.missing]  #! operator.unsupported "`+` does not go with `str` and `int`"  #! suppression.unused "nothing of `call.missing` is found here"
"a" + 1  # type: ignore[foreign-code]
"a" + 1  # leitmotiv: allow(operator.unsupported) shown in the manual
"a" + 1  # leitmotiv: allow(operator.*) all of them
x = 1  # leitmotiv: allow(call.missing) nothing here  #! suppression.unused "nothing of `call.missing` is found here"
x = 2  # leitmotiv: allow(call.mising) misspelt  #! suppression.unused "is `call.missing` meant?"
x = 3  # leitmotiv: alow(call.missing)  #! suppression.unused "not understood"
# leitmotiv: allow(operator.unsupported) the line below
"a" + 1
