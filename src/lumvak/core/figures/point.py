"""One thing against a part, or to know of it."""

from __future__ import annotations

from msgspec import Struct

from lumvak.core.said import Text


class Point(Struct, frozen=True):
    """One thing against a part, or to know of it: a stable code, the words, what would help."""

    code: str
    text: Text
    help: Text = ""
