# The module asyncio.log, after its source.
from logging import Logger
logger: Logger
