# The module compression.zstd, after PEP 784 and the library reference ("compression.zstd").
import enum
import io
from collections.abc import Iterable, Iterator, Mapping
from os import PathLike
from typing import IO, Any, Literal, NamedTuple, overload
from typing_extensions import Self

COMPRESSION_LEVEL_DEFAULT: int
zstd_version: str
zstd_version_info: tuple[int, int, int]

class ZstdError(Exception): ...

class ZstdDict:
    def __init__(self, dict_content: bytes | bytearray | memoryview, /, *, is_raw: bool = False) -> None: ...
    @property
    def dict_content(self) -> bytes: ...
    @property
    def dict_id(self) -> int: ...
    def __len__(self) -> int: ...

class CompressionParameter(enum.IntEnum):
    compression_level = 100
    window_log = 101
    hash_log = 102
    chain_log = 103
    search_log = 104
    min_match = 105
    target_length = 106
    strategy = 107
    enable_long_distance_matching = 160
    ldm_hash_log = 161
    ldm_min_match = 162
    ldm_bucket_size_log = 163
    ldm_hash_rate_log = 164
    content_size_flag = 200
    checksum_flag = 201
    dict_id_flag = 202
    nb_workers = 400
    job_size = 401
    overlap_log = 402
    def bounds(self) -> tuple[int, int]: ...

class DecompressionParameter(enum.IntEnum):
    window_log_max = 100
    def bounds(self) -> tuple[int, int]: ...

class Strategy(enum.IntEnum):
    fast = 1
    dfast = 2
    greedy = 3
    lazy = 4
    lazy2 = 5
    btlazy2 = 6
    btopt = 7
    btultra = 8
    btultra2 = 9

class FrameInfo(NamedTuple):
    decompressed_size: int | None
    dictionary_id: int

_Bytes = bytes | bytearray | memoryview
_File = str | bytes | PathLike[str] | PathLike[bytes] | IO[bytes]

class ZstdCompressor:
    CONTINUE: Literal[0]
    FLUSH_BLOCK: Literal[1]
    FLUSH_FRAME: Literal[2]
    def __init__(
        self, level: int | None = None, options: Mapping[int, int] | None = None, zstd_dict: ZstdDict | None = None,
    ) -> None: ...
    def compress(self, data: _Bytes, mode: int = 0) -> bytes: ...
    def flush(self, mode: int = 2) -> bytes: ...
    def set_pledged_input_size(self, size: int | None, /) -> None: ...
    @property
    def last_mode(self) -> int: ...

class ZstdDecompressor:
    def __init__(self, zstd_dict: ZstdDict | None = None, options: Mapping[int, int] | None = None) -> None: ...
    def decompress(self, data: _Bytes, max_length: int = -1) -> bytes: ...
    @property
    def eof(self) -> bool: ...
    @property
    def needs_input(self) -> bool: ...
    @property
    def unused_data(self) -> bytes: ...

class ZstdFile(io.BufferedIOBase):
    def __init__(
        self, file: _File, /, mode: str = "r", *, level: int | None = None, options: Mapping[int, int] | None = None,
        zstd_dict: ZstdDict | None = None,
    ) -> None: ...
    def peek(self, size: int = -1) -> bytes: ...
    def write(self, data: _Bytes, /) -> int: ...
    def __enter__(self) -> Self: ...
    def __iter__(self) -> Iterator[bytes]: ...

def compress(
    data: _Bytes, level: int | None = None, options: Mapping[int, int] | None = None, zstd_dict: ZstdDict | None = None,
) -> bytes: ...
def decompress(data: _Bytes, zstd_dict: ZstdDict | None = None, options: Mapping[int, int] | None = None) -> bytes: ...
def finalize_dict(zstd_dict: ZstdDict, /, samples: Iterable[_Bytes], dict_size: int, level: int) -> ZstdDict: ...
def get_frame_info(frame_buffer: _Bytes) -> FrameInfo: ...
def get_frame_size(frame_buffer: _Bytes) -> int: ...
def train_dict(samples: Iterable[_Bytes], dict_size: int) -> ZstdDict: ...
@overload
def open(
    file: _File, /, mode: Literal["r", "rb", "w", "wb", "a", "ab", "x", "xb"] = "rb", *, level: int | None = None,
    options: Mapping[int, int] | None = None, zstd_dict: ZstdDict | None = None, encoding: None = None, errors: None = None,
    newline: None = None,
) -> ZstdFile: ...
@overload
def open(
    file: _File, /, mode: Literal["rt", "wt", "at", "xt"], *, level: int | None = None, options: Mapping[int, int] | None = None,
    zstd_dict: ZstdDict | None = None, encoding: str | None = None, errors: str | None = None, newline: str | None = None,
) -> io.TextIOWrapper: ...
