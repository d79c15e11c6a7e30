# The module compression.bz2, after PEP 784: another name for bz2.
from bz2 import *
