#- in full
def is_name(value: object) -> bool:
    return isinstance(value, "str")  #! value.not-class@30-35 "`"str"` is `Literal["str"]` here, which is no class"  #> class "name the class itself"
