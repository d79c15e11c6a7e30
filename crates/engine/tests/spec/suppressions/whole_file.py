# type: ignore
"a" + 1
undefined_name
#- quiet
