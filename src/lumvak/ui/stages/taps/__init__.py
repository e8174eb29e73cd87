"""The stage of the balance leads."""
