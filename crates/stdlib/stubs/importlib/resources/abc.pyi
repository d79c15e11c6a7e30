# The module importlib.resources.abc, after the library reference ("importlib.resources.abc").
import sys
from importlib._resources import ResourceReader as ResourceReader, Traversable as Traversable, TraversableResources as TraversableResources
if sys.version_info >= (3, 12):
    class TraversalError(Exception): ...
