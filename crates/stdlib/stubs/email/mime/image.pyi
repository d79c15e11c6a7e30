# The module email.mime.image, after the library reference ("email.mime").
from collections.abc import Callable
from email.mime.nonmultipart import MIMENonMultipart
from email.policy import Policy

class MIMEImage(MIMENonMultipart):
    def __init__(self, _imagedata: bytes | bytearray | str, _subtype: str | None = None, _encoder: Callable[[MIMEImage], object] = ..., *, policy: Policy | None = None, **_params: str | None | tuple[str, str | None, str]) -> None: ...
