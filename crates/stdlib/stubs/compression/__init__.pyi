# The package compression, after PEP 784.
