#- in full
#- demand reasoned-suppressions
berth: int = "three"  # leitmotiv: allow(value.assign)  #! suppression.unreasoned@23-55 "`allow` gives no reason"  #> reason "write the reason behind it"  #> remove "take the comment out and mend what it hides"
