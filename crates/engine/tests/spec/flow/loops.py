def total(numbers: list[int]):
    result = 0
    for number in numbers:
        result += number
        number  #= int
    result  #= int
    return result


def climb():
    height = 0
    text = None
    while height < 10:
        height = height + 1
        if height > 5:
            text = "high"
    text  #= Literal["high"] | None
    return height


climb()  #= int


def first(names: list[str]):
    for name in names:
        if name:
            break
    else:
        return None
    return name  #= str


first([])  #= str | None
