"""Lumvak: sizing and building battery packs for light electric vehicles and power tools."""

__version__ = "0.1.0"
