#- in full
import skery_tides  #! import.unresolved@8-19 "there is no module `skery_tides`"  #> environment "install `skery_tides`, or point `interpreter` at the environment that has it"  #> optional "import it in a `try` with `except ImportError`, if the program can do without"  #> spell "correct the name"
