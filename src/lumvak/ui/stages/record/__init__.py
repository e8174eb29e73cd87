"""Stage: record."""
