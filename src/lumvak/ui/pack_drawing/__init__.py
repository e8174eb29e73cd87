"""The drawing of a pack, from either side."""
