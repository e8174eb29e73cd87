"""Sheets that lie over the window while they are asked for."""
