"""Balance leads."""
