#- in full
def price(fares: dict[str, int]) -> None:
    fares["child"] = "three"  #! value.item@22-29 "`Literal["three"]` does not fit into `dict[str, int]`, which holds `int`"  #> convert "convert or correct the value"  #> widen "widen what is said of the container"
