# The module compression.zlib, after PEP 784: another name for zlib.
from zlib import *
