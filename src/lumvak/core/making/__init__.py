"""Making: what is cut, from what, in which order."""
