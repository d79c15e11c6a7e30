# The module email.mime.message, after the library reference ("email.mime").
from email.message import Message
from email.mime.nonmultipart import MIMENonMultipart
from email.policy import Policy

class MIMEMessage(MIMENonMultipart):
    def __init__(self, _msg: Message, _subtype: str = "rfc822", *, policy: Policy | None = None) -> None: ...
