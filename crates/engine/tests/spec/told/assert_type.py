#- in full
from typing import assert_type

assert_type(len("Gannet"), str)  #! assert.type@1-32 "the type is `int`, asserted is `str`"  #> correct "correct the assertion, or what it is about"
