"""Trouble: which part of a pack is at fault, and which reading would tell most next."""
