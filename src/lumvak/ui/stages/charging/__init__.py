"""Stage: charging."""
