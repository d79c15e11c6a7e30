# The standard library's modules: what their names give.
import ast
import asyncio
import base64
import contextvars
import ctypes
import errno
import hashlib
import inspect
import pickle
import select
import signal
import socket
import ssl
import struct
import tempfile
import threading
import urllib.parse
import warnings
import weakref
import zlib

hashlib.sha256(b"tide").hexdigest()  #= str
base64.b64encode(b"tide")  #= bytes
base64.b64encode("tide")  #! class.protocol "does not fit `s`"
struct.unpack("<I", b"tide")  #= tuple[Any, ...]
struct.calcsize("<I")  #= int
pickle.loads(b"tide")  #= Any
zlib.crc32(b"tide")  #= int
errno.ENOENT  #= int
signal.SIGTERM  #= Literal[Signals.SIGTERM]
socket.AF_INET  #= Literal[AddressFamily.AF_INET]
socket.socket().accept()  #= tuple[socket, Any]
socket.socket().makefile("rb")  #= BufferedReader
ssl.create_default_context().verify_mode  #= VerifyMode
urllib.parse.urlsplit("ferry://skerry").netloc  #= str
urllib.parse.urlsplit(b"ferry://skerry").netloc  #= bytes
urllib.parse.quote("skerry line")  #= str
threading.Thread(target=print).join()  #= None
threading.current_thread().name  #= str
select.select([3], [], [])[0]  #= list[int]
ctypes.c_int(3).value  #= int
ast.parse("tide = 3").body  #= list[stmt]
inspect.signature(print).parameters  #= Mapping[str, Parameter]

berth: contextvars.ContextVar[str] = contextvars.ContextVar("berth")
berth.get()  #= str
berth.get(None)  #= str | None
berth.set(3)  #! call.argument "does not fit `value`"


class Vessel: ...


weakref.ref(Vessel())()  #= Vessel | None


def read(node: ast.expr | ast.stmt, task: object) -> None:
    if isinstance(node, ast.Call):
        node.func  #= expr
        node.args  #= list[expr]
    if inspect.iscoroutine(task):
        task.close()  #= None
    with tempfile.TemporaryDirectory() as folder:
        folder  #= str
    with warnings.catch_warnings(record=True) as told:
        told  #= list[WarningMessage]
    with tempfile.NamedTemporaryFile("w") as file:
        file.write("tide")  #= int


async def depth(port: str) -> float:
    return 2.5


async def chart() -> None:
    await asyncio.gather(depth("Skerry"), asyncio.sleep(1, "calm"))  #= tuple[float, str]
    task = asyncio.create_task(depth("Skerry"))
    task  #= Task[float]
    await asyncio.wait_for(task, 3)  #= float
    asyncio.get_running_loop().time()  #= float
    done, rest = await asyncio.wait([task])
    done  #= set[Task[float]]
