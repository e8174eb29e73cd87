"""The rating of the whole path, and what raises it."""
