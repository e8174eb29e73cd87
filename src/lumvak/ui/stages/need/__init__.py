"""The stage of the need."""
