# Standard library reference, "The concurrent package".
