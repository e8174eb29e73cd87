"""What to look for in a shop: the window of every figure of every part, without a catalogue."""
