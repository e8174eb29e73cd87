"""What comes after a pack is built, from its evaluation."""
