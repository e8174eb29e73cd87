"""The stage of the power path."""
