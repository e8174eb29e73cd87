"""Conductors and wires: resistance, warmth, what they carry, when they melt."""
