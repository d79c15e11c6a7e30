# The module socket, after the library reference ("socket") and the interpreter.
import sys
from collections.abc import Callable, Iterable
from enum import IntEnum, IntFlag
from io import BufferedReader, BufferedRWPair, BufferedWriter, IOBase, RawIOBase, TextIOWrapper
from typing import Any, Literal, NamedTuple, SupportsIndex, overload
from typing_extensions import Buffer, Self

_Address = tuple[Any, ...] | str | bytes
_Info = tuple[AddressFamily, SocketKind, int, str, tuple[str, int] | tuple[str, int, int, int] | tuple[int, bytes]]

class AddressFamily(IntEnum):
    AF_BLUETOOTH = 31
    AF_UNSPEC = 0
    AF_UNIX = 1
    AF_INET = 2
    AF_AX25 = 3
    AF_IPX = 4
    AF_APPLETALK = 5
    AF_NETROM = 6
    AF_BRIDGE = 7
    AF_ATMPVC = 8
    AF_X25 = 9
    AF_INET6 = 10
    AF_ROSE = 11
    AF_NETBEUI = 13
    AF_SECURITY = 14
    AF_KEY = 15
    AF_NETLINK = 16
    AF_ROUTE = 16
    AF_PACKET = 17
    AF_ASH = 18
    AF_ECONET = 19
    AF_ATMSVC = 20
    AF_RDS = 21
    AF_SNA = 22
    AF_IRDA = 23
    AF_PPPOX = 24
    AF_WANPIPE = 25
    AF_LLC = 26
    AF_CAN = 29
    AF_TIPC = 30
    AF_ALG = 38
    AF_VSOCK = 40
    AF_QIPCRTR = 42
class SocketKind(IntEnum):
    SOCK_STREAM = 1
    SOCK_DGRAM = 2
    SOCK_RAW = 3
    SOCK_RDM = 4
    SOCK_SEQPACKET = 5
    SOCK_NONBLOCK = 2048
    SOCK_CLOEXEC = 524288
class MsgFlag(IntFlag):
    MSG_OOB = 1
    MSG_PEEK = 2
    MSG_DONTROUTE = 4
    MSG_CTRUNC = 8
    MSG_TRUNC = 32
    MSG_DONTWAIT = 64
    MSG_EOR = 128
    MSG_WAITALL = 256
    MSG_CONFIRM = 2048
    MSG_ERRQUEUE = 8192
    MSG_NOSIGNAL = 16384
    MSG_MORE = 32768
    MSG_FASTOPEN = 536870912
    MSG_CMSG_CLOEXEC = 1073741824
class AddressInfo(IntFlag):
    AI_PASSIVE = 1
    AI_CANONNAME = 2
    AI_NUMERICHOST = 4
    AI_V4MAPPED = 8
    AI_ALL = 16
    AI_ADDRCONFIG = 32
    AI_NUMERICSERV = 1024

if sys.version_info < (3, 11):
    CAN_RAW_ERR_FILTER: int
AF_ALG = AddressFamily.AF_ALG
AF_APPLETALK = AddressFamily.AF_APPLETALK
AF_ASH = AddressFamily.AF_ASH
AF_ATMPVC = AddressFamily.AF_ATMPVC
AF_ATMSVC = AddressFamily.AF_ATMSVC
AF_AX25 = AddressFamily.AF_AX25
AF_BRIDGE = AddressFamily.AF_BRIDGE
AF_CAN = AddressFamily.AF_CAN
AF_DECnet: int
AF_ECONET = AddressFamily.AF_ECONET
AF_INET = AddressFamily.AF_INET
AF_INET6 = AddressFamily.AF_INET6
AF_IPX = AddressFamily.AF_IPX
AF_IRDA = AddressFamily.AF_IRDA
AF_KEY = AddressFamily.AF_KEY
AF_LLC = AddressFamily.AF_LLC
AF_NETBEUI = AddressFamily.AF_NETBEUI
AF_NETLINK = AddressFamily.AF_NETLINK
AF_NETROM = AddressFamily.AF_NETROM
AF_PACKET = AddressFamily.AF_PACKET
AF_PPPOX = AddressFamily.AF_PPPOX
AF_QIPCRTR = AddressFamily.AF_QIPCRTR
AF_RDS = AddressFamily.AF_RDS
AF_ROSE = AddressFamily.AF_ROSE
AF_ROUTE = AddressFamily.AF_ROUTE
AF_SECURITY = AddressFamily.AF_SECURITY
AF_SNA = AddressFamily.AF_SNA
AF_TIPC = AddressFamily.AF_TIPC
AF_UNIX = AddressFamily.AF_UNIX
AF_UNSPEC = AddressFamily.AF_UNSPEC
AF_VSOCK = AddressFamily.AF_VSOCK
AF_WANPIPE = AddressFamily.AF_WANPIPE
AF_X25 = AddressFamily.AF_X25
AI_ADDRCONFIG = AddressInfo.AI_ADDRCONFIG
AI_ALL = AddressInfo.AI_ALL
AI_CANONNAME = AddressInfo.AI_CANONNAME
AI_NUMERICHOST = AddressInfo.AI_NUMERICHOST
AI_NUMERICSERV = AddressInfo.AI_NUMERICSERV
AI_PASSIVE = AddressInfo.AI_PASSIVE
AI_V4MAPPED = AddressInfo.AI_V4MAPPED
ALG_OP_DECRYPT: int
ALG_OP_ENCRYPT: int
ALG_OP_SIGN: int
ALG_OP_VERIFY: int
ALG_SET_AEAD_ASSOCLEN: int
ALG_SET_AEAD_AUTHSIZE: int
ALG_SET_IV: int
ALG_SET_KEY: int
ALG_SET_OP: int
ALG_SET_PUBKEY: int
CAN_BCM: int
CAN_BCM_CAN_FD_FRAME: int
CAN_BCM_RX_ANNOUNCE_RESUME: int
CAN_BCM_RX_CHANGED: int
CAN_BCM_RX_CHECK_DLC: int
CAN_BCM_RX_DELETE: int
CAN_BCM_RX_FILTER_ID: int
CAN_BCM_RX_NO_AUTOTIMER: int
CAN_BCM_RX_READ: int
CAN_BCM_RX_RTR_FRAME: int
CAN_BCM_RX_SETUP: int
CAN_BCM_RX_STATUS: int
CAN_BCM_RX_TIMEOUT: int
CAN_BCM_SETTIMER: int
CAN_BCM_STARTTIMER: int
CAN_BCM_TX_ANNOUNCE: int
CAN_BCM_TX_COUNTEVT: int
CAN_BCM_TX_CP_CAN_ID: int
CAN_BCM_TX_DELETE: int
CAN_BCM_TX_EXPIRED: int
CAN_BCM_TX_READ: int
CAN_BCM_TX_RESET_MULTI_IDX: int
CAN_BCM_TX_SEND: int
CAN_BCM_TX_SETUP: int
CAN_BCM_TX_STATUS: int
CAN_EFF_FLAG: int
CAN_EFF_MASK: int
CAN_ERR_FLAG: int
CAN_ERR_MASK: int
CAN_ISOTP: int
CAN_RAW: int
CAN_RAW_FD_FRAMES: int
CAN_RAW_FILTER: int
CAN_RAW_LOOPBACK: int
CAN_RAW_RECV_OWN_MSGS: int
CAN_RTR_FLAG: int
CAN_SFF_MASK: int
EAGAIN: int
EAI_ADDRFAMILY: int
EAI_AGAIN: int
EAI_BADFLAGS: int
EAI_FAIL: int
EAI_FAMILY: int
EAI_MEMORY: int
EAI_NODATA: int
EAI_NONAME: int
EAI_OVERFLOW: int
EAI_SERVICE: int
EAI_SOCKTYPE: int
EAI_SYSTEM: int
EBADF: int
EWOULDBLOCK: int
INADDR_ALLHOSTS_GROUP: int
INADDR_ANY: int
INADDR_BROADCAST: int
INADDR_LOOPBACK: int
INADDR_MAX_LOCAL_GROUP: int
INADDR_NONE: int
INADDR_UNSPEC_GROUP: int
IOCTL_VM_SOCKETS_GET_LOCAL_CID: int
IPPORT_RESERVED: int
IPPORT_USERRESERVED: int
IPPROTO_AH: int
IPPROTO_DSTOPTS: int
IPPROTO_EGP: int
IPPROTO_ESP: int
IPPROTO_FRAGMENT: int
IPPROTO_GRE: int
IPPROTO_HOPOPTS: int
IPPROTO_ICMP: int
IPPROTO_ICMPV6: int
IPPROTO_IDP: int
IPPROTO_IGMP: int
IPPROTO_IP: int
IPPROTO_IPIP: int
IPPROTO_IPV6: int
IPPROTO_NONE: int
IPPROTO_PIM: int
IPPROTO_PUP: int
IPPROTO_RAW: int
IPPROTO_ROUTING: int
IPPROTO_RSVP: int
IPPROTO_SCTP: int
IPPROTO_TCP: int
IPPROTO_TP: int
IPPROTO_UDP: int
IPV6_CHECKSUM: int
IPV6_DONTFRAG: int
IPV6_DSTOPTS: int
IPV6_HOPLIMIT: int
IPV6_HOPOPTS: int
IPV6_JOIN_GROUP: int
IPV6_LEAVE_GROUP: int
IPV6_MULTICAST_HOPS: int
IPV6_MULTICAST_IF: int
IPV6_MULTICAST_LOOP: int
IPV6_NEXTHOP: int
IPV6_PATHMTU: int
IPV6_PKTINFO: int
IPV6_RECVDSTOPTS: int
IPV6_RECVHOPLIMIT: int
IPV6_RECVHOPOPTS: int
IPV6_RECVPATHMTU: int
IPV6_RECVPKTINFO: int
IPV6_RECVRTHDR: int
IPV6_RECVTCLASS: int
IPV6_RTHDR: int
IPV6_RTHDRDSTOPTS: int
IPV6_RTHDR_TYPE_0: int
IPV6_TCLASS: int
IPV6_UNICAST_HOPS: int
IPV6_V6ONLY: int
IP_ADD_MEMBERSHIP: int
IP_DEFAULT_MULTICAST_LOOP: int
IP_DEFAULT_MULTICAST_TTL: int
IP_DROP_MEMBERSHIP: int
IP_HDRINCL: int
IP_MAX_MEMBERSHIPS: int
IP_MULTICAST_IF: int
IP_MULTICAST_LOOP: int
IP_MULTICAST_TTL: int
IP_OPTIONS: int
IP_RECVOPTS: int
IP_RECVRETOPTS: int
IP_RETOPTS: int
IP_TOS: int
IP_TRANSPARENT: int
IP_TTL: int
MSG_CMSG_CLOEXEC = MsgFlag.MSG_CMSG_CLOEXEC
MSG_CONFIRM = MsgFlag.MSG_CONFIRM
MSG_CTRUNC = MsgFlag.MSG_CTRUNC
MSG_DONTROUTE = MsgFlag.MSG_DONTROUTE
MSG_DONTWAIT = MsgFlag.MSG_DONTWAIT
MSG_EOR = MsgFlag.MSG_EOR
MSG_ERRQUEUE = MsgFlag.MSG_ERRQUEUE
MSG_FASTOPEN = MsgFlag.MSG_FASTOPEN
MSG_MORE = MsgFlag.MSG_MORE
MSG_NOSIGNAL = MsgFlag.MSG_NOSIGNAL
MSG_OOB = MsgFlag.MSG_OOB
MSG_PEEK = MsgFlag.MSG_PEEK
MSG_TRUNC = MsgFlag.MSG_TRUNC
MSG_WAITALL = MsgFlag.MSG_WAITALL
NETLINK_CRYPTO: int
NETLINK_DNRTMSG: int
NETLINK_FIREWALL: int
NETLINK_IP6_FW: int
NETLINK_NFLOG: int
NETLINK_ROUTE: int
NETLINK_USERSOCK: int
NETLINK_XFRM: int
NI_DGRAM: int
NI_MAXHOST: int
NI_MAXSERV: int
NI_NAMEREQD: int
NI_NOFQDN: int
NI_NUMERICHOST: int
NI_NUMERICSERV: int
PACKET_BROADCAST: int
PACKET_FASTROUTE: int
PACKET_HOST: int
PACKET_LOOPBACK: int
PACKET_MULTICAST: int
PACKET_OTHERHOST: int
PACKET_OUTGOING: int
PF_CAN: int
PF_PACKET: int
PF_RDS: int
SCM_CREDENTIALS: int
SCM_RIGHTS: int
SHUT_RD: int
SHUT_RDWR: int
SHUT_WR: int
SOCK_CLOEXEC = SocketKind.SOCK_CLOEXEC
SOCK_DGRAM = SocketKind.SOCK_DGRAM
SOCK_NONBLOCK = SocketKind.SOCK_NONBLOCK
SOCK_RAW = SocketKind.SOCK_RAW
SOCK_RDM = SocketKind.SOCK_RDM
SOCK_SEQPACKET = SocketKind.SOCK_SEQPACKET
SOCK_STREAM = SocketKind.SOCK_STREAM
SOL_ALG: int
SOL_CAN_BASE: int
SOL_CAN_RAW: int
SOL_IP: int
SOL_RDS: int
SOL_SOCKET: int
SOL_TCP: int
SOL_TIPC: int
SOL_UDP: int
SOMAXCONN: int
SO_ACCEPTCONN: int
SO_BINDTODEVICE: int
SO_BROADCAST: int
SO_DEBUG: int
SO_DOMAIN: int
SO_DONTROUTE: int
SO_ERROR: int
SO_KEEPALIVE: int
SO_LINGER: int
SO_MARK: int
SO_OOBINLINE: int
SO_PASSCRED: int
SO_PASSSEC: int
SO_PEERCRED: int
SO_PEERSEC: int
SO_PRIORITY: int
SO_PROTOCOL: int
SO_RCVBUF: int
SO_RCVLOWAT: int
SO_RCVTIMEO: int
SO_REUSEADDR: int
SO_REUSEPORT: int
SO_SNDBUF: int
SO_SNDLOWAT: int
SO_SNDTIMEO: int
SO_TYPE: int
SO_VM_SOCKETS_BUFFER_MAX_SIZE: int
SO_VM_SOCKETS_BUFFER_MIN_SIZE: int
SO_VM_SOCKETS_BUFFER_SIZE: int
TCP_CONGESTION: int
TCP_CORK: int
TCP_DEFER_ACCEPT: int
TCP_FASTOPEN: int
TCP_INFO: int
TCP_KEEPCNT: int
TCP_KEEPIDLE: int
TCP_KEEPINTVL: int
TCP_LINGER2: int
TCP_MAXSEG: int
TCP_NODELAY: int
TCP_NOTSENT_LOWAT: int
TCP_QUICKACK: int
TCP_SYNCNT: int
TCP_USER_TIMEOUT: int
TCP_WINDOW_CLAMP: int
TIPC_ADDR_ID: int
TIPC_ADDR_NAME: int
TIPC_ADDR_NAMESEQ: int
TIPC_CFG_SRV: int
TIPC_CLUSTER_SCOPE: int
TIPC_CONN_TIMEOUT: int
TIPC_CRITICAL_IMPORTANCE: int
TIPC_DEST_DROPPABLE: int
TIPC_HIGH_IMPORTANCE: int
TIPC_IMPORTANCE: int
TIPC_LOW_IMPORTANCE: int
TIPC_MEDIUM_IMPORTANCE: int
TIPC_NODE_SCOPE: int
TIPC_PUBLISHED: int
TIPC_SRC_DROPPABLE: int
TIPC_SUBSCR_TIMEOUT: int
TIPC_SUB_CANCEL: int
TIPC_SUB_PORTS: int
TIPC_SUB_SERVICE: int
TIPC_TOP_SRV: int
TIPC_WAIT_FOREVER: int
TIPC_WITHDRAWN: int
TIPC_ZONE_SCOPE: int
VMADDR_CID_ANY: int
VMADDR_CID_HOST: int
VMADDR_PORT_ANY: int
VM_SOCKETS_INVALID_VERSION: int
has_ipv6: bool
if sys.version_info >= (3, 9):
    CAN_J1939: int
    CAN_RAW_JOIN_FILTERS: int
    IPPROTO_UDPLITE: int
    J1939_EE_INFO_NONE: int
    J1939_EE_INFO_TX_ABORT: int
    J1939_FILTER_MAX: int
    J1939_IDLE_ADDR: int
    J1939_MAX_UNICAST_ADDR: int
    J1939_NLA_BYTES_ACKED: int
    J1939_NLA_PAD: int
    J1939_NO_ADDR: int
    J1939_NO_NAME: int
    J1939_NO_PGN: int
    J1939_PGN_ADDRESS_CLAIMED: int
    J1939_PGN_ADDRESS_COMMANDED: int
    J1939_PGN_MAX: int
    J1939_PGN_PDU1_MAX: int
    J1939_PGN_REQUEST: int
    SCM_J1939_DEST_ADDR: int
    SCM_J1939_DEST_NAME: int
    SCM_J1939_ERRQUEUE: int
    SCM_J1939_PRIO: int
    SO_J1939_ERRQUEUE: int
    SO_J1939_FILTER: int
    SO_J1939_PROMISC: int
    SO_J1939_SEND_PRIO: int
    UDPLITE_RECV_CSCOV: int
    UDPLITE_SEND_CSCOV: int
if sys.version_info >= (3, 10):
    IPPROTO_MPTCP: int
    IP_RECVTOS: int
if sys.version_info >= (3, 11):
    IP_BIND_ADDRESS_NO_PORT: int
    SO_INCOMING_CPU: int
if sys.version_info >= (3, 12):
    ETHERTYPE_ARP: int
    ETHERTYPE_IP: int
    ETHERTYPE_IPV6: int
    ETHERTYPE_VLAN: int
    ETH_P_ALL: int
    IP_ADD_SOURCE_MEMBERSHIP: int
    IP_BLOCK_SOURCE: int
    IP_DROP_SOURCE_MEMBERSHIP: int
    IP_PKTINFO: int
    IP_UNBLOCK_SOURCE: int
    TCP_CC_INFO: int
    TCP_FASTOPEN_CONNECT: int
    TCP_FASTOPEN_KEY: int
    TCP_FASTOPEN_NO_COOKIE: int
    TCP_INQ: int
    TCP_MD5SIG: int
    TCP_MD5SIG_EXT: int
    TCP_QUEUE_SEQ: int
    TCP_REPAIR: int
    TCP_REPAIR_OPTIONS: int
    TCP_REPAIR_QUEUE: int
    TCP_REPAIR_WINDOW: int
    TCP_SAVED_SYN: int
    TCP_SAVE_SYN: int
    TCP_THIN_DUPACK: int
    TCP_THIN_LINEAR_TIMEOUTS: int
    TCP_TIMESTAMP: int
    TCP_TX_DELAY: int
    TCP_ULP: int
    TCP_ZEROCOPY_RECEIVE: int
if sys.version_info >= (3, 13):
    NI_IDN: int
    SO_BINDTOIFINDEX: int
has_ipv6: bool
if sys.platform == "win32":
    SIO_RCVALL: int
    SIO_KEEPALIVE_VALS: int
    SIO_LOOPBACK_FAST_PATH: int
    RCVALL_MAX: int
    RCVALL_OFF: int
    RCVALL_ON: int
    RCVALL_SOCKETLEVELONLY: int
    SO_EXCLUSIVEADDRUSE: int

error = OSError
class herror(OSError): ...
class gaierror(OSError): ...
if sys.version_info >= (3, 10):
    timeout = TimeoutError
else:
    class timeout(OSError): ...

class _socket:
    def __init__(self, family: int = -1, type: int = -1, proto: int = -1, fileno: int | None = None) -> None: ...
    @property
    def family(self) -> int: ...
    @property
    def type(self) -> int: ...
    @property
    def proto(self) -> int: ...
    @property
    def timeout(self) -> float | None: ...
    def bind(self, address: _Address, /) -> None: ...
    def close(self) -> None: ...
    def connect(self, address: _Address, /) -> None: ...
    def connect_ex(self, address: _Address, /) -> int: ...
    def detach(self) -> int: ...
    def fileno(self) -> int: ...
    def getpeername(self) -> Any: ...
    def getsockname(self) -> Any: ...
    @overload
    def getsockopt(self, level: int, option: int, /) -> int: ...
    @overload
    def getsockopt(self, level: int, option: int, buffersize: int, /) -> bytes: ...
    def getblocking(self) -> bool: ...
    def gettimeout(self) -> float | None: ...
    def listen(self, backlog: int = ..., /) -> None: ...
    def recv(self, bufsize: int, flags: int = 0, /) -> bytes: ...
    def recvfrom(self, bufsize: int, flags: int = 0, /) -> tuple[bytes, Any]: ...
    def recvmsg(self, bufsize: int, ancbufsize: int = 0, flags: int = 0, /) -> tuple[bytes, list[tuple[int, int, bytes]], int, Any]: ...
    def recvmsg_into(self, buffers: Iterable[Buffer], ancbufsize: int = 0, flags: int = 0, /) -> tuple[int, list[tuple[int, int, bytes]], int, Any]: ...
    def recvfrom_into(self, buffer: Buffer, nbytes: int = 0, flags: int = 0) -> tuple[int, Any]: ...
    def recv_into(self, buffer: Buffer, nbytes: int = 0, flags: int = 0) -> int: ...
    def send(self, data: Buffer, flags: int = 0, /) -> int: ...
    def sendall(self, data: Buffer, flags: int = 0, /) -> None: ...
    @overload
    def sendto(self, data: Buffer, address: _Address, /) -> int: ...
    @overload
    def sendto(self, data: Buffer, flags: int, address: _Address, /) -> int: ...
    def sendmsg(self, buffers: Iterable[Buffer], ancdata: Iterable[tuple[int, int, Buffer]] = ..., flags: int = 0, address: _Address | None = None, /) -> int: ...
    def setblocking(self, flag: int, /) -> None: ...
    def settimeout(self, value: float | None, /) -> None: ...
    @overload
    def setsockopt(self, level: int, option: int, value: int | Buffer, /) -> None: ...
    @overload
    def setsockopt(self, level: int, option: int, value: None, optlen: int, /) -> None: ...
    def shutdown(self, how: int, /) -> None: ...
    if sys.platform == "win32":
        def ioctl(self, control: int, option: int | tuple[int, int, int] | bool, /) -> None: ...
        def share(self, process_id: int, /) -> bytes: ...

SocketType = _socket

class socket(_socket):
    def __init__(self, family: AddressFamily | int = -1, type: SocketKind | int = -1, proto: int = -1, fileno: int | None = None) -> None: ...
    def __enter__(self) -> Self: ...
    def __exit__(self, *args: object) -> None: ...
    def dup(self) -> Self: ...
    def accept(self) -> tuple[socket, Any]: ...
    @overload
    def makefile(self, mode: Literal["b", "rb", "br"], buffering: int | None = None, *, encoding: str | None = None, errors: str | None = None, newline: str | None = None) -> BufferedReader: ...
    @overload
    def makefile(self, mode: Literal["wb", "bw"], buffering: int | None = None, *, encoding: str | None = None, errors: str | None = None, newline: str | None = None) -> BufferedWriter: ...
    @overload
    def makefile(self, mode: Literal["rwb", "rbw", "wrb", "wbr", "brw", "bwr"], buffering: int | None = None, *, encoding: str | None = None, errors: str | None = None, newline: str | None = None) -> BufferedRWPair: ...
    @overload
    def makefile(self, mode: Literal["r", "w", "rw", "wr", ""] = "r", buffering: int | None = None, *, encoding: str | None = None, errors: str | None = None, newline: str | None = None) -> TextIOWrapper: ...
    @overload
    def makefile(self, mode: str, buffering: int | None = None, *, encoding: str | None = None, errors: str | None = None, newline: str | None = None) -> Any: ...
    def sendfile(self, file: Any, offset: int = 0, count: int | None = None) -> int: ...
    @property
    def family(self) -> AddressFamily: ...
    @property
    def type(self) -> SocketKind: ...
    def get_inheritable(self) -> bool: ...
    def set_inheritable(self, inheritable: bool) -> None: ...

class SocketIO(RawIOBase):
    def __init__(self, sock: socket, mode: Literal["r", "w", "rw", "rb", "wb", "rwb"]) -> None: ...
    def readinto(self, b: Buffer) -> int | None: ...
    def write(self, b: Buffer) -> int | None: ...
    @property
    def name(self) -> int: ...
    @property
    def mode(self) -> str: ...

def fromfd(fd: SupportsIndex, family: AddressFamily | int, type: SocketKind | int, proto: int = 0) -> socket: ...
def socketpair(family: int | AddressFamily | None = None, type: SocketKind | int = ..., proto: int = 0) -> tuple[socket, socket]: ...
if sys.version_info >= (3, 9):
    def send_fds(sock: socket, buffers: Iterable[Buffer], fds: Iterable[int], flags: int = 0, address: Any = None) -> int: ...
    def recv_fds(sock: socket, bufsize: int, maxfds: int, flags: int = 0) -> tuple[bytes, list[int], int, Any]: ...
def getfqdn(name: str = "") -> str: ...
if sys.version_info >= (3, 11):
    def create_connection(
        address: tuple[str | None, int | str | None], timeout: float | None = ..., source_address: _Address | None = None, *,
        all_errors: bool = False,
    ) -> socket: ...
else:
    def create_connection(address: tuple[str | None, int | str | None], timeout: float | None = ..., source_address: _Address | None = None) -> socket: ...
def has_dualstack_ipv6() -> bool: ...
def create_server(
    address: _Address, *, family: int = ..., backlog: int | None = None, reuse_port: bool = False, dualstack_ipv6: bool = False,
) -> socket: ...
def getaddrinfo(
    host: bytes | str | None, port: bytes | str | int | None, family: int = 0, type: int = 0, proto: int = 0, flags: int = 0,
) -> list[_Info]: ...
def close(fd: SupportsIndex, /) -> None: ...
def dup(fd: SupportsIndex, /) -> int: ...
def getdefaulttimeout() -> float | None: ...
def setdefaulttimeout(timeout: float | None, /) -> None: ...
def gethostname() -> str: ...
def sethostname(name: str, /) -> None: ...
def gethostbyname(hostname: str, /) -> str: ...
def gethostbyname_ex(hostname: str, /) -> tuple[str, list[str], list[str]]: ...
def gethostbyaddr(ip_address: str, /) -> tuple[str, list[str], list[str]]: ...
def getnameinfo(sockaddr: tuple[str, int] | tuple[str, int, int] | tuple[str, int, int, int], flags: int, /) -> tuple[str, str]: ...
def getprotobyname(protocolname: str, /) -> int: ...
def getservbyname(servicename: str, protocolname: str = ..., /) -> int: ...
def getservbyport(port: int, protocolname: str = ..., /) -> str: ...
def htonl(x: int, /) -> int: ...
def htons(x: int, /) -> int: ...
def ntohl(x: int, /) -> int: ...
def ntohs(x: int, /) -> int: ...
def inet_aton(ip_addr: str, /) -> bytes: ...
def inet_ntoa(packed_ip: Buffer, /) -> str: ...
def inet_pton(address_family: int, ip_string: str, /) -> bytes: ...
def inet_ntop(address_family: int, packed_ip: Buffer, /) -> str: ...
def CMSG_LEN(length: int, /) -> int: ...
def CMSG_SPACE(length: int, /) -> int: ...
def if_nameindex() -> list[tuple[int, str]]: ...
def if_nametoindex(oname: str, /) -> int: ...
def if_indextoname(index: int, /) -> str: ...
CAPI: object
# There in builds that know Bluetooth.
AF_BLUETOOTH = AddressFamily.AF_BLUETOOTH
BTPROTO_L2CAP: int
BTPROTO_HCI: int
BTPROTO_RFCOMM: int
BTPROTO_SCO: int
SOL_HCI: int
HCI_FILTER: int
HCI_TIME_STAMP: int
HCI_DATA_DIR: int
BDADDR_ANY: str
BDADDR_LOCAL: str
