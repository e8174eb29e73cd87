"""The stage of the discharge."""
