# The module email.mime.base, after the library reference ("email.mime").
from email.message import Message
from email.policy import Policy

class MIMEBase(Message):
    def __init__(self, _maintype: str, _subtype: str, *, policy: Policy | None = None, **_params: str | None | tuple[str, str | None, str]) -> None: ...
