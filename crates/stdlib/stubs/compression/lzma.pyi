# The module compression.lzma, after PEP 784: another name for lzma.
from lzma import *
