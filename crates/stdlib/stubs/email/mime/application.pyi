# The module email.mime.application, after the library reference ("email.mime").
from collections.abc import Callable
from email.mime.nonmultipart import MIMENonMultipart
from email.policy import Policy

class MIMEApplication(MIMENonMultipart):
    def __init__(self, _data: bytes | bytearray | str, _subtype: str = "octet-stream", _encoder: Callable[[MIMEApplication], object] = ..., *, policy: Policy | None = None, **_params: str | None | tuple[str, str | None, str]) -> None: ...
