#- in full
async def depth(berth: int) -> int:  #< declared "`berth` is declared as `int`"
    await berth  #! value.not-awaitable@11-16 "`berth` is `int` here, which cannot be awaited"  #> drop "leave out the `await`"  #> call "call the coroutine function"
    return berth
