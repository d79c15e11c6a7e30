#- in full
capacity = 120  # leitmotiv: allow(value.assign) read from a file  #! suppression.unused@17-66 "nothing of `value.assign` is found here"  #> remove "remove the comment"
