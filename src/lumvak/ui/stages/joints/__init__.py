"""The stage of the joints."""
