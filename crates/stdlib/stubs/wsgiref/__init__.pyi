# The package wsgiref, after the library reference ("wsgiref").
