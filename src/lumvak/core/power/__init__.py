"""The power path from the joints to the equipment."""
