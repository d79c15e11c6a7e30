# The module ssl, after the library reference ("ssl") and the interpreter.
import socket
import sys
from collections.abc import Callable, Iterable
from enum import IntEnum, IntFlag
from socket import AddressFamily, SocketKind, create_connection as create_connection
from typing import Any, Literal, NamedTuple, overload
from typing_extensions import Buffer, Self

_Password = Callable[[], str | bytes | bytearray] | str | bytes | bytearray
_Certificate = dict[str, Any]

class VerifyMode(IntEnum):
    CERT_NONE = 0
    CERT_OPTIONAL = 1
    CERT_REQUIRED = 2
class VerifyFlags(IntFlag):
    VERIFY_DEFAULT = 0
    VERIFY_CRL_CHECK_LEAF = 4
    VERIFY_CRL_CHECK_CHAIN = 12
    VERIFY_X509_STRICT = 32
    VERIFY_ALLOW_PROXY_CERTS = 64
    VERIFY_X509_TRUSTED_FIRST = 32768
    VERIFY_X509_PARTIAL_CHAIN = 524288
class _SSLMethod(IntEnum):
    PROTOCOL_TLS = 2
    PROTOCOL_TLSv1 = 3
    PROTOCOL_TLSv1_1 = 4
    PROTOCOL_TLSv1_2 = 5
    PROTOCOL_TLS_CLIENT = 16
    PROTOCOL_TLS_SERVER = 17
class Options(IntFlag):
    OP_NO_SSLv2 = 0
    OP_SINGLE_DH_USE = 0
    OP_SINGLE_ECDH_USE = 0
    OP_IGNORE_UNEXPECTED_EOF = 128
    OP_NO_TICKET = 16384
    OP_NO_COMPRESSION = 131072
    OP_ENABLE_MIDDLEBOX_COMPAT = 1048576
    OP_CIPHER_SERVER_PREFERENCE = 4194304
    OP_NO_SSLv3 = 33554432
    OP_NO_TLSv1 = 67108864
    OP_NO_TLSv1_2 = 134217728
    OP_NO_TLSv1_1 = 268435456
    OP_NO_TLSv1_3 = 536870912
    OP_NO_RENEGOTIATION = 1073741824
    OP_ALL = 2147483728
    if sys.version_info >= (3, 12):
        OP_ENABLE_KTLS = 8
        OP_LEGACY_SERVER_CONNECT = 4
class AlertDescription(IntEnum):
    ALERT_DESCRIPTION_CLOSE_NOTIFY = 0
    ALERT_DESCRIPTION_UNEXPECTED_MESSAGE = 10
    ALERT_DESCRIPTION_BAD_RECORD_MAC = 20
    ALERT_DESCRIPTION_RECORD_OVERFLOW = 22
    ALERT_DESCRIPTION_DECOMPRESSION_FAILURE = 30
    ALERT_DESCRIPTION_HANDSHAKE_FAILURE = 40
    ALERT_DESCRIPTION_BAD_CERTIFICATE = 42
    ALERT_DESCRIPTION_UNSUPPORTED_CERTIFICATE = 43
    ALERT_DESCRIPTION_CERTIFICATE_REVOKED = 44
    ALERT_DESCRIPTION_CERTIFICATE_EXPIRED = 45
    ALERT_DESCRIPTION_CERTIFICATE_UNKNOWN = 46
    ALERT_DESCRIPTION_ILLEGAL_PARAMETER = 47
    ALERT_DESCRIPTION_UNKNOWN_CA = 48
    ALERT_DESCRIPTION_ACCESS_DENIED = 49
    ALERT_DESCRIPTION_DECODE_ERROR = 50
    ALERT_DESCRIPTION_DECRYPT_ERROR = 51
    ALERT_DESCRIPTION_PROTOCOL_VERSION = 70
    ALERT_DESCRIPTION_INSUFFICIENT_SECURITY = 71
    ALERT_DESCRIPTION_INTERNAL_ERROR = 80
    ALERT_DESCRIPTION_USER_CANCELLED = 90
    ALERT_DESCRIPTION_NO_RENEGOTIATION = 100
    ALERT_DESCRIPTION_UNSUPPORTED_EXTENSION = 110
    ALERT_DESCRIPTION_CERTIFICATE_UNOBTAINABLE = 111
    ALERT_DESCRIPTION_UNRECOGNIZED_NAME = 112
    ALERT_DESCRIPTION_BAD_CERTIFICATE_STATUS_RESPONSE = 113
    ALERT_DESCRIPTION_BAD_CERTIFICATE_HASH_VALUE = 114
    ALERT_DESCRIPTION_UNKNOWN_PSK_IDENTITY = 115
class SSLErrorNumber(IntEnum):
    SSL_ERROR_SSL = 1
    SSL_ERROR_WANT_READ = 2
    SSL_ERROR_WANT_WRITE = 3
    SSL_ERROR_WANT_X509_LOOKUP = 4
    SSL_ERROR_SYSCALL = 5
    SSL_ERROR_ZERO_RETURN = 6
    SSL_ERROR_WANT_CONNECT = 7
    SSL_ERROR_EOF = 8
    SSL_ERROR_INVALID_ERROR_CODE = 10
class TLSVersion(IntEnum):
    MINIMUM_SUPPORTED = -2
    SSLv3 = 768
    TLSv1 = 769
    TLSv1_1 = 770
    TLSv1_2 = 771
    TLSv1_3 = 772
    MAXIMUM_SUPPORTED = -1

if sys.version_info < (3, 9):
    AF_INET: AddressFamily
ALERT_DESCRIPTION_ACCESS_DENIED = AlertDescription.ALERT_DESCRIPTION_ACCESS_DENIED
ALERT_DESCRIPTION_BAD_CERTIFICATE = AlertDescription.ALERT_DESCRIPTION_BAD_CERTIFICATE
ALERT_DESCRIPTION_BAD_CERTIFICATE_HASH_VALUE = AlertDescription.ALERT_DESCRIPTION_BAD_CERTIFICATE_HASH_VALUE
ALERT_DESCRIPTION_BAD_CERTIFICATE_STATUS_RESPONSE = AlertDescription.ALERT_DESCRIPTION_BAD_CERTIFICATE_STATUS_RESPONSE
ALERT_DESCRIPTION_BAD_RECORD_MAC = AlertDescription.ALERT_DESCRIPTION_BAD_RECORD_MAC
ALERT_DESCRIPTION_CERTIFICATE_EXPIRED = AlertDescription.ALERT_DESCRIPTION_CERTIFICATE_EXPIRED
ALERT_DESCRIPTION_CERTIFICATE_REVOKED = AlertDescription.ALERT_DESCRIPTION_CERTIFICATE_REVOKED
ALERT_DESCRIPTION_CERTIFICATE_UNKNOWN = AlertDescription.ALERT_DESCRIPTION_CERTIFICATE_UNKNOWN
ALERT_DESCRIPTION_CERTIFICATE_UNOBTAINABLE = AlertDescription.ALERT_DESCRIPTION_CERTIFICATE_UNOBTAINABLE
ALERT_DESCRIPTION_CLOSE_NOTIFY = AlertDescription.ALERT_DESCRIPTION_CLOSE_NOTIFY
ALERT_DESCRIPTION_DECODE_ERROR = AlertDescription.ALERT_DESCRIPTION_DECODE_ERROR
ALERT_DESCRIPTION_DECOMPRESSION_FAILURE = AlertDescription.ALERT_DESCRIPTION_DECOMPRESSION_FAILURE
ALERT_DESCRIPTION_DECRYPT_ERROR = AlertDescription.ALERT_DESCRIPTION_DECRYPT_ERROR
ALERT_DESCRIPTION_HANDSHAKE_FAILURE = AlertDescription.ALERT_DESCRIPTION_HANDSHAKE_FAILURE
ALERT_DESCRIPTION_ILLEGAL_PARAMETER = AlertDescription.ALERT_DESCRIPTION_ILLEGAL_PARAMETER
ALERT_DESCRIPTION_INSUFFICIENT_SECURITY = AlertDescription.ALERT_DESCRIPTION_INSUFFICIENT_SECURITY
ALERT_DESCRIPTION_INTERNAL_ERROR = AlertDescription.ALERT_DESCRIPTION_INTERNAL_ERROR
ALERT_DESCRIPTION_NO_RENEGOTIATION = AlertDescription.ALERT_DESCRIPTION_NO_RENEGOTIATION
ALERT_DESCRIPTION_PROTOCOL_VERSION = AlertDescription.ALERT_DESCRIPTION_PROTOCOL_VERSION
ALERT_DESCRIPTION_RECORD_OVERFLOW = AlertDescription.ALERT_DESCRIPTION_RECORD_OVERFLOW
ALERT_DESCRIPTION_UNEXPECTED_MESSAGE = AlertDescription.ALERT_DESCRIPTION_UNEXPECTED_MESSAGE
ALERT_DESCRIPTION_UNKNOWN_CA = AlertDescription.ALERT_DESCRIPTION_UNKNOWN_CA
ALERT_DESCRIPTION_UNKNOWN_PSK_IDENTITY = AlertDescription.ALERT_DESCRIPTION_UNKNOWN_PSK_IDENTITY
ALERT_DESCRIPTION_UNRECOGNIZED_NAME = AlertDescription.ALERT_DESCRIPTION_UNRECOGNIZED_NAME
ALERT_DESCRIPTION_UNSUPPORTED_CERTIFICATE = AlertDescription.ALERT_DESCRIPTION_UNSUPPORTED_CERTIFICATE
ALERT_DESCRIPTION_UNSUPPORTED_EXTENSION = AlertDescription.ALERT_DESCRIPTION_UNSUPPORTED_EXTENSION
ALERT_DESCRIPTION_USER_CANCELLED = AlertDescription.ALERT_DESCRIPTION_USER_CANCELLED
CERT_NONE = VerifyMode.CERT_NONE
CERT_OPTIONAL = VerifyMode.CERT_OPTIONAL
CERT_REQUIRED = VerifyMode.CERT_REQUIRED
HAS_ALPN: bool
HAS_ECDH: bool
HAS_NEVER_CHECK_COMMON_NAME: bool
HAS_NPN: bool
HAS_SNI: bool
HAS_SSLv2: bool
HAS_SSLv3: bool
HAS_TLSv1: bool
HAS_TLSv1_1: bool
HAS_TLSv1_2: bool
HAS_TLSv1_3: bool
OPENSSL_VERSION: str
OPENSSL_VERSION_NUMBER: int
OP_ALL = Options.OP_ALL
OP_CIPHER_SERVER_PREFERENCE = Options.OP_CIPHER_SERVER_PREFERENCE
OP_ENABLE_MIDDLEBOX_COMPAT = Options.OP_ENABLE_MIDDLEBOX_COMPAT
OP_IGNORE_UNEXPECTED_EOF = Options.OP_IGNORE_UNEXPECTED_EOF
OP_NO_COMPRESSION = Options.OP_NO_COMPRESSION
OP_NO_RENEGOTIATION = Options.OP_NO_RENEGOTIATION
OP_NO_SSLv2 = Options.OP_NO_SSLv2
OP_NO_SSLv3 = Options.OP_NO_SSLv3
OP_NO_TICKET = Options.OP_NO_TICKET
OP_NO_TLSv1 = Options.OP_NO_TLSv1
OP_NO_TLSv1_1 = Options.OP_NO_TLSv1_1
OP_NO_TLSv1_2 = Options.OP_NO_TLSv1_2
OP_NO_TLSv1_3 = Options.OP_NO_TLSv1_3
OP_SINGLE_DH_USE = Options.OP_SINGLE_DH_USE
OP_SINGLE_ECDH_USE = Options.OP_SINGLE_ECDH_USE
PEM_FOOTER: str
PEM_HEADER: str
PROTOCOL_SSLv23: _SSLMethod
PROTOCOL_TLS = _SSLMethod.PROTOCOL_TLS
PROTOCOL_TLS_CLIENT = _SSLMethod.PROTOCOL_TLS_CLIENT
PROTOCOL_TLS_SERVER = _SSLMethod.PROTOCOL_TLS_SERVER
PROTOCOL_TLSv1 = _SSLMethod.PROTOCOL_TLSv1
PROTOCOL_TLSv1_1 = _SSLMethod.PROTOCOL_TLSv1_1
PROTOCOL_TLSv1_2 = _SSLMethod.PROTOCOL_TLSv1_2
SOCK_STREAM: SocketKind
SOL_SOCKET: int
SO_TYPE: int
SSL_ERROR_EOF = SSLErrorNumber.SSL_ERROR_EOF
SSL_ERROR_INVALID_ERROR_CODE = SSLErrorNumber.SSL_ERROR_INVALID_ERROR_CODE
SSL_ERROR_SSL = SSLErrorNumber.SSL_ERROR_SSL
SSL_ERROR_SYSCALL = SSLErrorNumber.SSL_ERROR_SYSCALL
SSL_ERROR_WANT_CONNECT = SSLErrorNumber.SSL_ERROR_WANT_CONNECT
SSL_ERROR_WANT_READ = SSLErrorNumber.SSL_ERROR_WANT_READ
SSL_ERROR_WANT_WRITE = SSLErrorNumber.SSL_ERROR_WANT_WRITE
SSL_ERROR_WANT_X509_LOOKUP = SSLErrorNumber.SSL_ERROR_WANT_X509_LOOKUP
SSL_ERROR_ZERO_RETURN = SSLErrorNumber.SSL_ERROR_ZERO_RETURN
VERIFY_CRL_CHECK_CHAIN = VerifyFlags.VERIFY_CRL_CHECK_CHAIN
VERIFY_CRL_CHECK_LEAF = VerifyFlags.VERIFY_CRL_CHECK_LEAF
VERIFY_DEFAULT = VerifyFlags.VERIFY_DEFAULT
VERIFY_X509_STRICT = VerifyFlags.VERIFY_X509_STRICT
VERIFY_X509_TRUSTED_FIRST = VerifyFlags.VERIFY_X509_TRUSTED_FIRST
if sys.version_info >= (3, 10):
    VERIFY_ALLOW_PROXY_CERTS = VerifyFlags.VERIFY_ALLOW_PROXY_CERTS
    VERIFY_X509_PARTIAL_CHAIN = VerifyFlags.VERIFY_X509_PARTIAL_CHAIN
if sys.version_info >= (3, 12):
    OP_ENABLE_KTLS = Options.OP_ENABLE_KTLS
    OP_LEGACY_SERVER_CONNECT = Options.OP_LEGACY_SERVER_CONNECT
if sys.version_info >= (3, 13):
    HAS_PSK: bool

OPENSSL_VERSION_INFO: tuple[int, int, int, int, int]
_OPENSSL_API_VERSION: tuple[int, int, int, int, int]
# Only where OpenSSL was built with them.
PROTOCOL_SSLv2: _SSLMethod
PROTOCOL_SSLv3: _SSLMethod

CHANNEL_BINDING_TYPES: list[str]

class SSLError(OSError):
    library: str
    reason: str
class SSLZeroReturnError(SSLError): ...
class SSLWantReadError(SSLError): ...
class SSLWantWriteError(SSLError): ...
class SSLSyscallError(SSLError): ...
class SSLEOFError(SSLError): ...
class SSLCertVerificationError(SSLError, ValueError):
    verify_code: int
    verify_message: str
CertificateError = SSLCertVerificationError
socket_error = OSError

class _ASN1Object(NamedTuple):
    nid: int
    shortname: str
    longname: str
    oid: str
class Purpose(_ASN1Object):
    SERVER_AUTH: Purpose
    CLIENT_AUTH: Purpose
class DefaultVerifyPaths(NamedTuple):
    cafile: str
    capath: str
    openssl_cafile_env: str
    openssl_cafile: str
    openssl_capath_env: str
    openssl_capath: str

class SSLSession:
    @property
    def id(self) -> bytes: ...
    @property
    def time(self) -> int: ...
    @property
    def timeout(self) -> int: ...
    @property
    def ticket_lifetime_hint(self) -> int: ...
    @property
    def has_ticket(self) -> bool: ...

class MemoryBIO:
    pending: int
    eof: bool
    def read(self, size: int = -1, /) -> bytes: ...
    def write(self, b: Buffer, /) -> int: ...
    def write_eof(self) -> None: ...

class SSLSocket(socket.socket):
    context: SSLContext
    server_side: bool
    server_hostname: str | None
    session: SSLSession | None
    @property
    def session_reused(self) -> bool | None: ...
    def __init__(self, *args: Any, **kwargs: Any) -> None: ...
    def read(self, len: int = 1024, buffer: bytearray | None = None) -> Any: ...
    def write(self, data: Buffer) -> int: ...
    def do_handshake(self, block: bool = False) -> None: ...
    @overload
    def getpeercert(self, binary_form: Literal[False] = False) -> _Certificate | None: ...
    @overload
    def getpeercert(self, binary_form: Literal[True]) -> bytes | None: ...
    @overload
    def getpeercert(self, binary_form: bool) -> _Certificate | bytes | None: ...
    def cipher(self) -> tuple[str, str, int] | None: ...
    def shared_ciphers(self) -> list[tuple[str, str, int]] | None: ...
    def compression(self) -> str | None: ...
    def get_channel_binding(self, cb_type: str = "tls-unique") -> bytes | None: ...
    def selected_alpn_protocol(self) -> str | None: ...
    def selected_npn_protocol(self) -> str | None: ...
    def unwrap(self) -> socket.socket: ...
    def version(self) -> str | None: ...
    def pending(self) -> int: ...
    def verify_client_post_handshake(self) -> None: ...
    def send(self, data: Buffer, flags: int = 0) -> int: ...
    def sendall(self, data: Buffer, flags: int = 0) -> None: ...
    def recv(self, buflen: int = 1024, flags: int = 0) -> bytes: ...
    def recv_into(self, buffer: Buffer, nbytes: int | None = None, flags: int = 0) -> int: ...
    def recvfrom(self, buflen: int = 1024, flags: int = 0) -> tuple[bytes, Any]: ...
    def recvfrom_into(self, buffer: Buffer, nbytes: int | None = None, flags: int = 0) -> tuple[int, Any]: ...
    def shutdown(self, how: int) -> None: ...
    def connect(self, addr: Any) -> None: ...
    def connect_ex(self, addr: Any) -> int: ...
    if sys.version_info >= (3, 13):
        def get_unverified_chain(self) -> list[bytes]: ...
        def get_verified_chain(self) -> list[bytes]: ...

class SSLObject:
    context: SSLContext
    server_side: bool
    server_hostname: str | None
    session: SSLSession | None
    @property
    def session_reused(self) -> bool: ...
    def __init__(self, *args: Any, **kwargs: Any) -> None: ...
    def read(self, len: int = 1024, buffer: bytearray | None = None) -> Any: ...
    def write(self, data: Buffer) -> int: ...
    @overload
    def getpeercert(self, binary_form: Literal[False] = False) -> _Certificate | None: ...
    @overload
    def getpeercert(self, binary_form: Literal[True]) -> bytes | None: ...
    @overload
    def getpeercert(self, binary_form: bool) -> _Certificate | bytes | None: ...
    def selected_alpn_protocol(self) -> str | None: ...
    def selected_npn_protocol(self) -> str | None: ...
    def cipher(self) -> tuple[str, str, int] | None: ...
    def shared_ciphers(self) -> list[tuple[str, str, int]] | None: ...
    def compression(self) -> str | None: ...
    def pending(self) -> int: ...
    def do_handshake(self) -> None: ...
    def unwrap(self) -> None: ...
    def version(self) -> str | None: ...
    def get_channel_binding(self, cb_type: str = "tls-unique") -> bytes | None: ...
    def verify_client_post_handshake(self) -> None: ...
    if sys.version_info >= (3, 13):
        def get_unverified_chain(self) -> list[bytes]: ...
        def get_verified_chain(self) -> list[bytes]: ...

class SSLContext:
    check_hostname: bool
    @property
    def options(self) -> Options: ...
    @options.setter
    def options(self, value: Options | int) -> None: ...
    @property
    def verify_flags(self) -> VerifyFlags: ...
    @verify_flags.setter
    def verify_flags(self, value: VerifyFlags | int) -> None: ...
    @property
    def verify_mode(self) -> VerifyMode: ...
    @verify_mode.setter
    def verify_mode(self, value: VerifyMode | int) -> None: ...
    @property
    def maximum_version(self) -> TLSVersion: ...
    @maximum_version.setter
    def maximum_version(self, value: TLSVersion | int) -> None: ...
    @property
    def minimum_version(self) -> TLSVersion: ...
    @minimum_version.setter
    def minimum_version(self, value: TLSVersion | int) -> None: ...
    hostname_checks_common_name: bool
    keylog_filename: str
    post_handshake_auth: bool
    num_tickets: int
    sni_callback: Callable[[SSLObject, str, SSLContext], None | int] | None
    sslobject_class: type[SSLObject]
    sslsocket_class: type[SSLSocket]
    if sys.version_info >= (3, 10):
        security_level: int
    @property
    def protocol(self) -> _SSLMethod: ...
    def __new__(cls, protocol: int | None = None, *args: Any, **kwargs: Any) -> Self: ...
    def cert_store_stats(self) -> dict[str, int]: ...
    def load_cert_chain(self, certfile: Any, keyfile: Any = None, password: _Password | None = None) -> None: ...
    def load_default_certs(self, purpose: Purpose = ...) -> None: ...
    def load_verify_locations(self, cafile: Any = None, capath: Any = None, cadata: str | Buffer | None = None) -> None: ...
    @overload
    def get_ca_certs(self, binary_form: Literal[False] = False) -> list[_Certificate]: ...
    @overload
    def get_ca_certs(self, binary_form: Literal[True]) -> list[bytes]: ...
    @overload
    def get_ca_certs(self, binary_form: bool = False) -> Any: ...
    def get_ciphers(self) -> list[dict[str, Any]]: ...
    def set_default_verify_paths(self) -> None: ...
    def set_ciphers(self, cipherlist: str, /) -> None: ...
    def set_alpn_protocols(self, alpn_protocols: Iterable[str]) -> None: ...
    def set_npn_protocols(self, npn_protocols: Iterable[str]) -> None: ...
    def set_servername_callback(self, server_name_callback: Callable[[SSLObject, str, SSLContext], None | int] | None) -> None: ...
    def load_dh_params(self, path: str, /) -> None: ...
    def set_ecdh_curve(self, name: str, /) -> None: ...
    def wrap_socket(
        self, sock: socket.socket, server_side: bool = False, do_handshake_on_connect: bool = True, suppress_ragged_eofs: bool = True,
        server_hostname: str | bytes | None = None, session: SSLSession | None = None,
    ) -> SSLSocket: ...
    def wrap_bio(
        self, incoming: MemoryBIO, outgoing: MemoryBIO, server_side: bool = False, server_hostname: str | bytes | None = None,
        session: SSLSession | None = None,
    ) -> SSLObject: ...
    def session_stats(self) -> dict[str, int]: ...

def create_default_context(purpose: Purpose = ..., *, cafile: Any = None, capath: Any = None, cadata: str | Buffer | None = None) -> SSLContext: ...
def _create_unverified_context(
    protocol: int | None = None, *, cert_reqs: int = ..., check_hostname: bool = False, purpose: Purpose = ..., certfile: Any = None,
    keyfile: Any = None, cafile: Any = None, capath: Any = None, cadata: str | Buffer | None = None,
) -> SSLContext: ...
_create_default_https_context: Callable[..., SSLContext]
if sys.version_info < (3, 12):
    def wrap_socket(
        sock: socket.socket, keyfile: Any = None, certfile: Any = None, server_side: bool = False, cert_reqs: int = ..., ssl_version: int = ...,
        ca_certs: str | None = None, do_handshake_on_connect: bool = True, suppress_ragged_eofs: bool = True, ciphers: str | None = None,
    ) -> SSLSocket: ...
    def match_hostname(cert: _Certificate, hostname: str) -> None: ...
    def RAND_pseudo_bytes(n: int, /) -> tuple[bytes, bool]: ...
def RAND_bytes(n: int, /) -> bytes: ...
def RAND_status() -> bool: ...
def RAND_add(string: str | Buffer, entropy: float, /) -> None: ...
def cert_time_to_seconds(cert_time: str) -> int: ...
def DER_cert_to_PEM_cert(der_cert_bytes: Buffer) -> str: ...
def PEM_cert_to_DER_cert(pem_cert_string: str) -> bytes: ...
def get_default_verify_paths() -> DefaultVerifyPaths: ...
def get_protocol_name(protocol_code: int) -> str: ...
if sys.version_info >= (3, 10):
    def get_server_certificate(addr: tuple[str, int], ssl_version: int = ..., ca_certs: str | None = None, timeout: float = ...) -> str: ...
else:
    def get_server_certificate(addr: tuple[str, int], ssl_version: int = ..., ca_certs: str | None = None) -> str: ...
