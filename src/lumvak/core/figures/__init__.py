"""Figures, findings and links: what every topic makes."""
