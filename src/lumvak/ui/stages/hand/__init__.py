"""Stage: cells in hand. Measured, judged, dealt into groups."""
