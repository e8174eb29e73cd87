"""What a pack can be exported to."""
