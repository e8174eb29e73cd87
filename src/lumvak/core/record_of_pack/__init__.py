"""What stays with a pack: its passport, its label and its log."""
