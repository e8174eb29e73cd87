"""Widgets that know nothing of packs."""
