"""Proving a pack at the bench: what is expected, what was measured, what follows (methods 42)."""
