#- in full
def refuse(reason: str) -> None:  #< declared "`reason` is declared as `str`"
    raise reason  #! value.not-exception@11-17 "`reason` is `str` here, which is no exception"  #> wrap "raise an exception that says so"  #> derive "derive the class from `Exception`"
