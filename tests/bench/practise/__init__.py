"""Practise on a simulated pack."""
