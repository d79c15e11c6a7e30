# The package asyncio, after the library reference ("asyncio").
import concurrent.futures
import sys
from collections.abc import Coroutine
from contextvars import Context
from typing import Any, TypeVar
from asyncio import base_events as base_events, constants as constants, coroutines as coroutines, events as events
from asyncio import exceptions as exceptions, futures as futures, locks as locks, protocols as protocols, queues as queues
from asyncio import runners as runners, streams as streams, subprocess as subprocess, tasks as tasks, transports as transports

_T = TypeVar("_T")

from asyncio.events import *
from asyncio.exceptions import *
from asyncio.futures import *
from asyncio.locks import *
from asyncio.protocols import *
from asyncio.queues import *
from asyncio.runners import *
from asyncio.streams import *
from asyncio.subprocess import create_subprocess_exec as create_subprocess_exec, create_subprocess_shell as create_subprocess_shell
from asyncio.tasks import *
from asyncio.events import AbstractEventLoop as AbstractEventLoop
from asyncio.tasks import Task as Task
from asyncio.transports import *
from asyncio.base_events import BaseEventLoop as BaseEventLoop, Server as Server
from asyncio.coroutines import iscoroutine as iscoroutine, iscoroutinefunction as iscoroutinefunction
if sys.version_info >= (3, 11):
    from asyncio.taskgroups import TaskGroup as TaskGroup
    from asyncio.timeouts import Timeout as Timeout, timeout as timeout, timeout_at as timeout_at
if sys.platform == "win32":
    from asyncio.windows_events import ProactorEventLoop as ProactorEventLoop, SelectorEventLoop as SelectorEventLoop
    from asyncio.windows_events import WindowsProactorEventLoopPolicy as WindowsProactorEventLoopPolicy
    from asyncio.windows_events import WindowsSelectorEventLoopPolicy as WindowsSelectorEventLoopPolicy
    DefaultEventLoopPolicy = WindowsProactorEventLoopPolicy
else:
    from asyncio.unix_events import DefaultEventLoopPolicy as DefaultEventLoopPolicy, SelectorEventLoop as SelectorEventLoop
    from asyncio.unix_events import AbstractChildWatcher as AbstractChildWatcher, ThreadedChildWatcher as ThreadedChildWatcher
if sys.version_info < (3, 11):
    from asyncio.coroutines import coroutine as coroutine
from asyncio.events import AbstractEventLoopPolicy as AbstractEventLoopPolicy
from asyncio.unix_events import SafeChildWatcher as SafeChildWatcher
from asyncio.unix_events import FastChildWatcher as FastChildWatcher
from asyncio.unix_events import MultiLoopChildWatcher as MultiLoopChildWatcher
if sys.version_info >= (3, 9):
    from asyncio.threads import to_thread as to_thread
    from asyncio.unix_events import PidfdChildWatcher as PidfdChildWatcher
if sys.version_info >= (3, 12):
    from asyncio.tasks import create_eager_task_factory as create_eager_task_factory
    def eager_task_factory(loop: AbstractEventLoop, coro: Coroutine[Any, Any, _T], *, name: str | None = None, context: Context | None = None) -> Task[_T]: ...
if sys.version_info >= (3, 13):
    from asyncio.unix_events import _UnixSelectorEventLoop as EventLoop
