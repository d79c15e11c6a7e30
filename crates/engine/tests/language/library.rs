//! What calls of the standard library give, by the stubs that come with the program: a few of each module, as people use it.

use super::holds;

#[test]
fn requests_over_http() {
    holds(
        r#"
import http.client
import http.server
import urllib.error
import urllib.request
from http.cookiejar import CookieJar

line = http.client.HTTPSConnection("tides.example", timeout=3)
line.request("GET", "/neap", headers={"accept": "text/plain"})
answer = line.getresponse()
answer.status  #= int
answer.read()  #= bytes
answer.getheader("etag")  #= str | None
answer.getheader("etag", 3)  #= str | int
answer.headers.get_all("via")  #= list[Any] | None
for name, value in answer.getheaders():
    name  #= str

opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(CookieJar()))
asked = urllib.request.Request("https://tides.example", method="PUT")
asked.get_method()  #= str
asked.full_url  #= str
opener.open(asked, timeout="3")  #! call.argument
try:
    urllib.request.urlretrieve("https://tides.example")  #= tuple[str, HTTPMessage]
except urllib.error.HTTPError as error:
    error.code  #= int
    error.headers  #= Message

class Board(http.server.BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        self.send_response(200)
        self.rfile.readline(80)  #= bytes
        self.headers.get("host")  #= Any
"#,
    );
}

#[test]
fn letters() {
    holds(
        r#"
import email
from email.header import decode_header
from email.message import EmailMessage
from email.mime.multipart import MIMEMultipart
from email.mime.text import MIMEText
from email.utils import formataddr, parseaddr, parsedate_to_datetime

notice = EmailMessage()
notice["subject"] = "Late ferry"
notice.set_content("an hour")
notice.as_bytes()  #= bytes
notice.get_content_type()  #= str
notice.get_filename()  #= str | None
for part in notice.walk():
    part  #= EmailMessage
letter = MIMEMultipart("alternative")
letter.attach(MIMEText("text", "plain", "utf-8"))
letter.is_multipart()  #= bool
parseaddr("Skerry Lines <post@skerry.example>")  #= tuple[str, str]
parsedate_to_datetime("Thu, 26 Nov 2026 10:00:00 +0000").year  #= int
formataddr(3)  #! call.argument
MIMEText()  #! call.missing
"#,
    );
}

#[test]
fn tasks_and_streams() {
    holds(
        r#"
import asyncio

async def tide(hour: int) -> float:
    return 3.0

async def main() -> str:
    first = asyncio.create_task(tide(3))
    await first  #= float
    one, two = await asyncio.gather(tide(1), tide(2))
    one  #= float
    async with asyncio.TaskGroup() as group:
        group.create_task(tide(4))  #= Task[float]
    async with asyncio.timeout(3):
        await asyncio.to_thread(int, "3")  #= int
    queue: asyncio.Queue[str] = asyncio.Queue()
    await queue.put(3)  #! call.argument
    await queue.get()  #= str
    lock = asyncio.Lock()
    async with lock:
        lock.locked()  #= bool
    reader, writer = await asyncio.open_connection("tides.example", 80)
    await reader.readline()  #= bytes
    writer.write("text")  #! class.protocol "it has no `__buffer__`"
    async for line in reader:
        line  #= bytes
    ferry = await asyncio.create_subprocess_exec("ferry", stdout=asyncio.subprocess.PIPE)
    await ferry.communicate()  #= tuple[bytes, bytes]
    loop = asyncio.get_running_loop()
    loop.call_later(3, print, "late")  #= TimerHandle
    return "done"

asyncio.run(main())  #= str
asyncio.Runner().run(main())  #= str
"#,
    );
}

#[test]
fn tests_and_mocks() {
    holds(
        r#"
import unittest
from unittest import mock

class FareTest(unittest.TestCase):
    def setUp(self) -> None:
        self.fares = {"adult": 3.0}

    def test_fare(self) -> None:
        with self.assertRaises(KeyError) as caught:
            self.fares["child"]
        caught.exception  #= KeyError
        with self.assertLogs("fares", level="INFO") as logged:
            pass
        logged.output  #= list[str]
        with self.subTest(age=3):
            self.assertEqual(self.fares["adult"], 3)
        self.assertListEqual({}, [])  #! call.argument
        self.assertEquals(1, 1)
        self.skipTest("no tide")

    @mock.patch("fares.table")
    def test_table(self, table: mock.MagicMock) -> None:
        table.return_value = 3
        table.assert_called_once_with(3)

def patched() -> None:
    with mock.patch("fares.table") as table:
        table.anything.at.all
    with mock.patch.object(FareTest, "fares", {"dog": 3}) as fares:
        fares  #= dict[str, int]
    mock.Mock(return_value=3)()  #= Any
    mock.sentinel.berth

unittest.main(verbosity=2)
"#,
    );
}

#[test]
fn processes() {
    holds(
        r#"
import multiprocessing
from multiprocessing import Pool, Process, Queue
from multiprocessing.pool import ThreadPool
from multiprocessing.shared_memory import SharedMemory

def tide(hour: int) -> float:
    return 3.0

with Pool(3) as pool:
    pool.map(tide, [1, 2])  #= list[float]
    pool.apply_async(tide, (3,)).get()  #= float
    for height in pool.imap_unordered(tide, range(3)):
        height  #= float
    pool.map(tide, ["a"])  #! call.argument
ferry = Process(target=tide, args=(3,), daemon=True)
ferry.start()
ferry.exitcode  #= int | None
multiprocessing.cpu_count()  #= int
near, far = multiprocessing.Pipe()
near.recv_bytes()  #= bytes
SharedMemory(create=True, size=3).buf  #= memoryview
with multiprocessing.Manager() as manager:
    manager.dict()  #= DictProxy[Any, Any]
"#,
    );
}

#[test]
fn modules_and_packages() {
    holds(
        r#"
import importlib
import importlib.metadata
import importlib.resources
import importlib.util
import pkgutil

found = importlib.util.find_spec("ferry")
if found is not None:
    importlib.util.module_from_spec(found)  #= ModuleType
    found.origin  #= str | None
importlib.metadata.version("ferry")  #= str
for entry in importlib.metadata.entry_points(group="berths"):
    entry.name  #= str
    entry.load()  #= Any
importlib.resources.files("ferry").joinpath("tides.txt").read_text()  #= str
for module in pkgutil.iter_modules(["ferry"]):
    module.ispkg  #= bool
importlib.metadata.version(3)  #! call.argument
"#,
    );
}

#[test]
fn archives_and_tables() {
    holds(
        r#"
import calendar
import ipaddress
import tarfile
import tomllib
from pathlib import Path

with tarfile.open("manifests.tar.gz") as archive:
    for member in archive:
        member.name  #= str
        archive.extractfile(member)  #= IO[bytes] | None
with Path("ferry.toml").open("rb") as file:
    tomllib.load(file)  #= dict[str, Any]
tomllib.loads(b"")  #! call.argument
calendar.monthrange(2026, 11)  #= tuple[int, int]
calendar.TextCalendar().formatmonth(2026, 11)  #= str
for day in calendar.Calendar().itermonthdates(2026, 11):
    day  #= date
ipaddress.ip_address("10.0.0.1")  #= IPv4Address | IPv6Address
ipaddress.IPv4Network("10.0.0.0/24").broadcast_address  #= IPv4Address
for host in ipaddress.IPv6Network("fe80::/64").hosts():
    host  #= IPv6Address
"#,
    );
}

#[test]
fn post_and_old_options() {
    holds(
        r#"
import ftplib
import getopt
import gettext
import optparse
import smtplib
import xml.dom.minidom
import xml.sax

with smtplib.SMTP("post.example") as post:
    post.sendmail("a@b", ["c@d"], "text")  #= dict[str, tuple[int, bytes]]
    post.login("a", "b")  #= tuple[int, bytes]
with ftplib.FTP("files.example") as files:
    files.nlst()  #= list[str]
    files.size("manifest")  #= int | None
options, rest = getopt.getopt(["-v"], "v")
options  #= list[tuple[str, str]]
parser = optparse.OptionParser()
parser.add_option("-v", action="store_true")
values, words = parser.parse_args()
values.v  #= Any
words  #= list[str]

def translated() -> str:
    return gettext.translation("ferry", fallback=True).gettext("tide")

def elements() -> None:
    document = xml.dom.minidom.parseString("<tide/>")
    for element in document.getElementsByTagName("tide"):
        element.getAttribute("height")  #= str
    document.createElement(3)  #! call.argument

class Reader(xml.sax.ContentHandler):
    def startElement(self, name: str, attrs: xml.sax.xmlreader.AttributesImpl) -> None:
        attrs.getValue("height")  #= str
"#,
    );
}

#[test]
fn servers_and_logs() {
    holds(
        r#"
import logging
import logging.config
import logging.handlers
import selectors
import socketserver
import queue

handler = logging.handlers.RotatingFileHandler("ferry.log", maxBytes=3, backupCount=3)
handler.setLevel(logging.INFO)
handler.maxBytes  #= int
logging.handlers.QueueListener(queue.Queue(), handler, respect_handler_level=True).start()
logging.handlers.SysLogHandler(address=3)  #! call.argument
logging.config.dictConfig({"version": 1})

class Berth(socketserver.StreamRequestHandler):
    def handle(self) -> None:
        self.rfile.readline()  #= bytes
        self.server.anything

with socketserver.ThreadingTCPServer(("", 0), Berth) as server:
    server.serve_forever()
chosen = selectors.DefaultSelector()
for key, events in chosen.select(3):
    key.fileobj
    events  #= int
"#,
    );
}

#[test]
fn terminals_colours_and_templates() {
    holds(
        r#"
#- python 3.14
import colorsys
import curses
import plistlib
import shelve
from string.templatelib import Interpolation, Template

def shown(screen: curses.window, berth: int) -> int:
    screen.addstr(0, 0, "tide")
    screen.getmaxyx()  #= tuple[int, int]
    return screen.getch()

curses.wrapper(shown, 3)  #= int
curses.wrapper(shown, "3")  #! call.argument
colorsys.rgb_to_hsv(1, 0, 0)  #= tuple[float, float, float]
with shelve.open("fares") as fares:
    fares["adult"] = 3
plistlib.loads(b"")  #= Any
for part in Template("high at ", Interpolation(3, "hour")):
    part  #= str | Interpolation[Any]
"#,
    );
}
