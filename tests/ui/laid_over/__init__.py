"""Sheets that lie over the window."""
