#- in full
leg = ("Skua", "Tern")
leg[2]  #! index.range@5-6 "there is no item 2 in `tuple[Literal["Skua"], Literal["Tern"]]`"  #> correct "correct the number or the key"
