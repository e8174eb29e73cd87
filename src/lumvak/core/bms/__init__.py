"""The BMS: which suits, why others do not, and what to set in one that can be set."""
