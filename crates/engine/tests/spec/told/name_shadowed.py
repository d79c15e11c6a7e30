#- in full
class Harbour:
    def list(self) -> int:  #< declared "`list` means this function here"
        return 3

    def names(self) -> "list[str]":  #! name.shadowed@25-29 "`list` is a function of the class here, which hides the built-in `list`"  #> rename "rename the method"  #> qualify "name the built-in in full"
        return []
