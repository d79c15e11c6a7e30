#- in full
import skery_tides  #! import.unresolved@8-19 "there is no module `skery_tides`"  #> spell "correct the name"  #> environment "point `interpreter` at the environment that has the package, or install it there"  #> optional "import it in a `try` with `except ImportError`, if the program can do without"
