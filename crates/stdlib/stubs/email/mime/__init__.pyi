# The package email.mime: messages made part by part.
