"""Logs that instruments, testers and modules write: of a charge, a load, a cell, groups."""
