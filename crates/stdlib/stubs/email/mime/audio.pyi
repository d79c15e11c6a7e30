# The module email.mime.audio, after the library reference ("email.mime").
from collections.abc import Callable
from email.mime.nonmultipart import MIMENonMultipart
from email.policy import Policy

class MIMEAudio(MIMENonMultipart):
    def __init__(self, _audiodata: bytes | bytearray | str, _subtype: str | None = None, _encoder: Callable[[MIMEAudio], object] = ..., *, policy: Policy | None = None, **_params: str | None | tuple[str, str | None, str]) -> None: ...
