"""Cells and count: what serves, how it ranks, and the pack in hand."""
