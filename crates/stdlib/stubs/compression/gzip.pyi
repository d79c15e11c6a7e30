# The module compression.gzip, after PEP 784: another name for gzip.
from gzip import *
