# The module email.mime.text, after the library reference ("email.mime").
from email.mime.nonmultipart import MIMENonMultipart
from email.policy import Policy

class MIMEText(MIMENonMultipart):
    def __init__(self, _text: str, _subtype: str = "plain", _charset: str | None = None, *, policy: Policy | None = None) -> None: ...
