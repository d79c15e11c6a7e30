# The module asyncio.constants, after its source.
import sys
import enum
LOG_THRESHOLD_FOR_CONNLOST_WRITES: int
ACCEPT_RETRY_DELAY: int
DEBUG_STACK_DEPTH: int
SSL_HANDSHAKE_TIMEOUT: float
if sys.version_info >= (3, 11):
    SSL_SHUTDOWN_TIMEOUT: float
SENDFILE_FALLBACK_READBUFFER_SIZE: int
if sys.version_info >= (3, 11):
    FLOW_CONTROL_HIGH_WATER_SSL_READ: int
if sys.version_info >= (3, 11):
    FLOW_CONTROL_HIGH_WATER_SSL_WRITE: int
if sys.version_info >= (3, 12):
    THREAD_JOIN_TIMEOUT: int
