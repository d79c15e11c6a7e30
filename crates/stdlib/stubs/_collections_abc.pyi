# The classes of `collections.abc` are defined in this module.
from collections.abc import *
