"""Commands for the bench: cells grouped, leads checked, charging, balancing, tests."""
