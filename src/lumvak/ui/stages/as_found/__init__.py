"""Stage: a pack as it is found, and what to make of it."""
