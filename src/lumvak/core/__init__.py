"""The domain: all computation, without Qt, files or network."""
