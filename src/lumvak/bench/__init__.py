"""Instruments at the bench, real and simulated, and the procedures that use them."""
