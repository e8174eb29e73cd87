"""Joints: how strips are laid, what they carry, and the network they make."""
