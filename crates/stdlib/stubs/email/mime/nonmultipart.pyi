# The module email.mime.nonmultipart, after the library reference ("email.mime").
from email.mime.base import MIMEBase
from typing import NoReturn

class MIMENonMultipart(MIMEBase):
    def attach(self, payload: object) -> NoReturn: ...
