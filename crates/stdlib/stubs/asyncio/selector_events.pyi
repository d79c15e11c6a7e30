# The module asyncio.selector_events, after its source.
from asyncio.base_events import BaseEventLoop
from selectors import BaseSelector
from socket import socket

class BaseSelectorEventLoop(BaseEventLoop):
    def __init__(self, selector: BaseSelector | None = None) -> None: ...
    async def sock_recv(self, sock: socket, n: int) -> bytes: ...
