# The module xml.parsers.expat, after the library reference ("xml.parsers.expat").
from pyexpat import *
