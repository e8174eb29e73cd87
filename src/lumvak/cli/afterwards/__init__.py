"""Commands for a pack that is there: its record, a second one beside it."""
