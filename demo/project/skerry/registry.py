"""A registry of commands and reports by name."""

_COMMANDS = {}
_REPORTS = {}


def command(name, help=""):
    def register(function):
        _COMMANDS[name] = (function, help)
        return function

    return register


def report(function):
    _REPORTS[function.__name__] = function
    return function


def get_command(name):
    if name not in _COMMANDS:
        raise KeyError("no command %r" % name)
    return _COMMANDS[name][0]


def commands():
    return sorted((name, entry[1]) for name, entry in _COMMANDS.items())


def get_report(name):
    return _REPORTS.get(name)


def reports():
    return sorted(_REPORTS)
