# The harbour's old scripts.
# quayside: ignore-all

"a" + 1
undefined_name
#- quiet
