# The module email.mime.multipart, after the library reference ("email.mime").
from collections.abc import Sequence
from email.message import Message
from email.mime.base import MIMEBase
from email.policy import Policy

class MIMEMultipart(MIMEBase):
    def __init__(self, _subtype: str = "mixed", boundary: str | None = None, _subparts: Sequence[Message] | None = None, *, policy: Policy | None = None, **_params: str | None | tuple[str, str | None, str]) -> None: ...
