# The package urllib has no names of its own.
