"a" + 1  # quayside: ignore[operand]
"a" + 1  # quayside: ignore
"a" + 1  # quayside: ignored  #! operator.unsupported
"a" + 1  # todo: ignore  #! operator.unsupported
# quayside: ignore
"a" + 1  #! operator.unsupported
