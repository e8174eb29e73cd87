"""The stage of the arrangement."""
