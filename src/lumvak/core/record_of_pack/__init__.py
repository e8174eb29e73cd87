"""What stays with a pack: its passport, its label, its log, its bill of materials and its days."""
