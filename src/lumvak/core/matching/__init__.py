"""Cells in hand: judged, brought to one voltage, and dealt into groups that are alike."""
