"""A pack as it is found: what was seen of it, what it may give, and what to make of it."""
