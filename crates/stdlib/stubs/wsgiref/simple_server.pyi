# The module wsgiref.simple_server, after the library reference ("wsgiref.simple_server").
from collections.abc import Callable, Iterable
from http.server import BaseHTTPRequestHandler, HTTPServer
from typing import Any
from wsgiref.handlers import SimpleHandler
server_version: str
sys_version: str
software_version: str

class ServerHandler(SimpleHandler):
    server_software: str

class WSGIServer(HTTPServer):
    application: Callable[..., Iterable[bytes]] | None
    base_environ: dict[str, Any]
    def setup_environ(self) -> None: ...
    def get_app(self) -> Callable[..., Iterable[bytes]] | None: ...
    def set_app(self, application: Callable[..., Iterable[bytes]] | None) -> None: ...

class WSGIRequestHandler(BaseHTTPRequestHandler):
    server_version: str
    def get_environ(self) -> dict[str, Any]: ...
    def get_stderr(self) -> Any: ...

def demo_app(environ: dict[str, Any], start_response: Callable[..., Any]) -> list[bytes]: ...
def make_server(host: str, port: int, app: Callable[..., Iterable[bytes]], server_class: type[WSGIServer] = ..., handler_class: type[WSGIRequestHandler] = ...) -> Any: ...
