# The package xml, after the library reference ("XML Processing Modules").
