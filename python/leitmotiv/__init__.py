"""Leitmotiv brings types into a Python codebase, step by step. `python -m leitmotiv` runs the program."""
