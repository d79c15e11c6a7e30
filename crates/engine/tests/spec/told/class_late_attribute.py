#- in full
#- demand declared-attributes
class Ferry:
    def __init__(self, name: str) -> None:
        self.name = name

    def depart(self, minute: int) -> None:
        self.left_at = minute  #! class.late-attribute@14-21 "`left_at` of `Ferry` is neither declared in the class nor set in `__init__`"  #> set "set it in `__init__`"  #> declare "declare it in the class body"
