"""What the document holds of a pack that is there."""
