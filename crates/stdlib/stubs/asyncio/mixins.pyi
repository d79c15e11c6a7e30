# The module asyncio.mixins, after its source: nothing in it is public.
