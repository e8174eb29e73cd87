"""Charging."""
