#- in full
def board(passenger:  #! syntax.error@21-2:1 "not valid Python: expected `)`, found newline"  #> mend "mend the text"
    return passenger  #! syntax.error@5-11 "not valid Python: expected an expression"  #> mend "mend the text"
