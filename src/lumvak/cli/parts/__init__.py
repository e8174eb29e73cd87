"""Commands about parts: cells, conductors, the catalogue, what to look for in a shop."""
