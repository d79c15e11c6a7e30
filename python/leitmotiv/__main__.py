"""Runs the program that was installed with this package."""

import os
import subprocess
import sys
import sysconfig


def program():
    """The program's path: beside this interpreter's scripts, those of the user, or those of the folder that this was installed into."""
    name = "leitmotiv" + (sysconfig.get_config_var("EXE") or "")
    here = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
    folders = [
        sysconfig.get_path("scripts"),
        sysconfig.get_path("scripts", scheme=sysconfig.get_preferred_scheme("user"))
        if hasattr(sysconfig, "get_preferred_scheme")
        else None,
        # `pip install --target`
        os.path.join(here, "bin"),
    ]
    for folder in folders:
        path = folder and os.path.join(folder, name)
        if path and os.path.isfile(path):
            return path
    sys.exit("leitmotiv: the program is not where this package was installed; install the package again")


def main():
    """Becomes the program where the system can do that, else runs it and ends with its status."""
    words = [program(), *sys.argv[1:]]
    if os.name == "posix":
        os.execv(words[0], words)
    try:
        sys.exit(subprocess.run(words).returncode)
    except KeyboardInterrupt:
        sys.exit(130)


if __name__ == "__main__":
    main()
