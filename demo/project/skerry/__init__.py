"""Skerry Lines: timetable, berths, fares and manifests of an island ferry operator."""

import os
import sys

# The office machines have no environment of their own; dependencies travel with the program.
_DEPS = os.path.join(os.path.dirname(os.path.dirname(os.path.abspath(__file__))), "venv", "lib", "python3.11", "site-packages")
if os.path.isdir(_DEPS) and _DEPS not in sys.path:
    sys.path.append(_DEPS)

VERSION = "3.2"
