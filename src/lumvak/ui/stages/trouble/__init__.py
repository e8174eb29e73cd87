"""Stage: trouble. Which part it is, and what to measure next."""
