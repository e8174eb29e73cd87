"""The stage of a second pack."""
