"""Commands for a pack that is there."""
