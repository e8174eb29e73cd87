"""Lumvak at home on a machine: manual pages, completion, the desktop."""
