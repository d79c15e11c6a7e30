#- in full
async def depart() -> int:
    return 3

async def day() -> None:
    depart()  #! call.unawaited@5-13 "`depart()` makes a coroutine that nobody awaits"  #> await "await it"  #> task "run it beside the rest with `asyncio.create_task`"
