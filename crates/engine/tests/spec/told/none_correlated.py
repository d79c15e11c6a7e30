#- in full
def announce(is_late: bool, has_speaker: bool) -> str:
    reason = None  #< assigned "`reason` gets None"
    if is_late:
        reason = "fog"  #< assigned "a value is given here"
    if has_speaker:
        return reason.upper()  #! none.correlated@16-28 "`reason` may be None here (`Literal["fog"] | None`), and None has no attribute `upper`; what it is given in line 4 is under another condition"  #> ask "ask about the value itself in place of the other condition"  #> assert "assert that it is there"
    return ""
