import json
import os
import re

sorted({"a": 1}.items(), key=lambda pair: pair[1])  #= list[tuple[str, int]]
max([1, 2], key=lambda n: -n)  #= int
open("x").read()  #= str
open("x", "rb").read()  #= bytes
{"a": 1}.get("b")  #= int | None
{"a": 1}.get("b", "")  #= int | str
dict(a=1)  #= dict[str, int]
list(zip([1], ["a"]))  #= list[tuple[int, str]]
for number, letter in enumerate("abc"):
    letter  #= str
os.path.join("a", "b")  #= str
json.dumps({})  #= str
re.compile("a").match("b")  #= Match[str] | None
sum([1.5, 2.5])  #= float | Literal[0]
next(iter([1]), None)  #= int | None
list(map(str, [1]))  #= list[str]
isinstance(3, int)  #= bool
"a,b".split(",")  #= list[str]
[1] + ["a"]  #= list[str | int]
3 + 1.5  #= float
"a" + 1  #! operator.unsupported "`+` does not go with `str` and `int`"
-"a"  #! operator.unsupported
1 < "a"  #! operator.unsupported
