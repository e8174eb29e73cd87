"""The need: what is asked of the pack, for how long, and over time."""
