"""What stands around the stages: build line, margin, path, title."""
