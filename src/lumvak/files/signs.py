"""Texts from elsewhere, as signs that can be shown and written."""

from __future__ import annotations


def printable(text: str) -> str:
    """The text without signs that are not shown, and may turn what is."""
    return "".join(sign for sign in text if sign.isprintable())


def in_signs(text: str) -> str:
    """The text with another sign for bytes of a path that are none."""
    return text.encode("utf-8", "replace").decode("utf-8")
