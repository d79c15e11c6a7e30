# The module stat, after the library reference ("stat").
import sys
FILE_ATTRIBUTE_ARCHIVE: int
FILE_ATTRIBUTE_COMPRESSED: int
FILE_ATTRIBUTE_DEVICE: int
FILE_ATTRIBUTE_DIRECTORY: int
FILE_ATTRIBUTE_ENCRYPTED: int
FILE_ATTRIBUTE_HIDDEN: int
FILE_ATTRIBUTE_INTEGRITY_STREAM: int
FILE_ATTRIBUTE_NORMAL: int
FILE_ATTRIBUTE_NOT_CONTENT_INDEXED: int
FILE_ATTRIBUTE_NO_SCRUB_DATA: int
FILE_ATTRIBUTE_OFFLINE: int
FILE_ATTRIBUTE_READONLY: int
FILE_ATTRIBUTE_REPARSE_POINT: int
FILE_ATTRIBUTE_SPARSE_FILE: int
FILE_ATTRIBUTE_SYSTEM: int
FILE_ATTRIBUTE_TEMPORARY: int
FILE_ATTRIBUTE_VIRTUAL: int
SF_APPEND: int
SF_ARCHIVED: int
SF_IMMUTABLE: int
SF_NOUNLINK: int
SF_SNAPSHOT: int
ST_ATIME: int
ST_CTIME: int
ST_DEV: int
ST_GID: int
ST_INO: int
ST_MODE: int
ST_MTIME: int
ST_NLINK: int
ST_SIZE: int
ST_UID: int
S_ENFMT: int
S_IEXEC: int
S_IFBLK: int
S_IFCHR: int
S_IFDIR: int
S_IFDOOR: int
S_IFIFO: int
S_IFLNK: int
S_IFPORT: int
S_IFREG: int
S_IFSOCK: int
S_IFWHT: int
S_IREAD: int
S_IRGRP: int
S_IROTH: int
S_IRUSR: int
S_IRWXG: int
S_IRWXO: int
S_IRWXU: int
def S_ISBLK(mode: int, /) -> bool: ...
def S_ISCHR(mode: int, /) -> bool: ...
def S_ISDIR(mode: int, /) -> bool: ...
def S_ISDOOR(mode: int, /) -> bool: ...
def S_ISFIFO(mode: int, /) -> bool: ...
S_ISGID: int
def S_ISLNK(mode: int, /) -> bool: ...
def S_ISPORT(mode: int, /) -> bool: ...
def S_ISREG(mode: int, /) -> bool: ...
def S_ISSOCK(mode: int, /) -> bool: ...
S_ISUID: int
S_ISVTX: int
def S_ISWHT(mode: int, /) -> bool: ...
S_IWGRP: int
S_IWOTH: int
S_IWRITE: int
S_IWUSR: int
S_IXGRP: int
S_IXOTH: int
S_IXUSR: int
UF_APPEND: int
UF_COMPRESSED: int
UF_HIDDEN: int
UF_IMMUTABLE: int
UF_NODUMP: int
UF_NOUNLINK: int
UF_OPAQUE: int
if sys.version_info >= (3, 13):
    SF_DATALESS: int
if sys.version_info >= (3, 13):
    SF_FIRMLINK: int
if sys.version_info >= (3, 13):
    SF_RESTRICTED: int
if sys.version_info >= (3, 13):
    SF_SETTABLE: int
if sys.version_info >= (3, 13):
    UF_DATAVAULT: int
if sys.version_info >= (3, 13):
    UF_SETTABLE: int
if sys.version_info >= (3, 13):
    UF_TRACKED: int

def S_IMODE(mode: int, /) -> int: ...
def S_IFMT(mode: int, /) -> int: ...
def filemode(mode: int, /) -> str: ...
