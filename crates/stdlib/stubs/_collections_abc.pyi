# The classes of `collections.abc` are defined in this module.
from collections.abc import *
from builtins import dict_items as dict_items, dict_keys as dict_keys, dict_values as dict_values
