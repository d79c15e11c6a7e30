# The package xml.parsers, after the library reference ("xml.parsers.expat").
from xml.parsers import expat as expat
