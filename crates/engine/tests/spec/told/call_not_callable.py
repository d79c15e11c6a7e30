#- in full
capacity = 40  #< assigned "`capacity` gets `int`"
capacity()  #! call.not-callable@1-9 "`capacity` is `Literal[40]` here, which cannot be called"  #> drop "leave out the parentheses"  #> define "give the class a `__call__`"
