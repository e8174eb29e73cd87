"""Cells: their model, their warmth, their sheets."""
