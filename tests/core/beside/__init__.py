"""Packs beside each other."""
