# The module curses.panel, after the library reference ("curses.panel").
version: str
