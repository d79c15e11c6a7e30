#- in full
#- json.py
BERTHS = 3  #< declared "this module is found first"
#- main.py
import json  #! import.shadowed@8-12 "`json` is `json.py` here, which hides the standard library's `json`"  #> rename "give the module another name"  #> package "move the module into a package, and import it from there"

print(json.BERTHS)
