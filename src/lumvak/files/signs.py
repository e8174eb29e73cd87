"""Texts from elsewhere, as signs that can be shown and written."""

from __future__ import annotations

import re


def printable(text: str) -> str:
    """The text without signs that are not shown, and may turn what is."""
    return "".join(sign for sign in text if sign.isprintable())


def in_signs(text: str) -> str:
    """The text with another sign for bytes of a path that are none."""
    return text.encode("utf-8", "replace").decode("utf-8")


def brief(text: str, most: int, *, word: int, over: int) -> str:
    """The text in ``most`` signs; of a word that is ``over`` longer than ``word`` no more than so
    many.
    """
    short = re.sub(rf"(\S{{{word}}})\S{{{over},}}", r"\1…", text)
    return short if len(short) <= most else f"{short[: most - 1]}…"
