"""How wide and how high texts are: worked out once for each text and font."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QRect, Qt
from PyQt6.QtGui import QFontMetrics

from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import WRAP

MOST_KEPT = 20_000


def text_width(text: str, size: str, *, strong: bool = False, table: bool = False) -> int:
    """Width in px of a line in a font of the theme."""
    return _width(text, size, strong, table, THEME.percent)


@lru_cache(maxsize=MOST_KEPT)
def _width(text: str, size: str, strong: bool, table: bool, percent: int) -> int:
    return metrics(size, strong=strong, table=table).horizontalAdvance(text)


def wrapped_height(
    text: str, width: int, size: str, *, strong: bool = False, table: bool = False
) -> int:
    """Height in px of a text that goes on in the next line at a width."""
    return _height(text, width, size, strong, table, THEME.percent)


@lru_cache(maxsize=MOST_KEPT)
def _height(text: str, width: int, size: str, strong: bool, table: bool, percent: int) -> int:
    box = QRect(0, 0, width, 10_000)
    return metrics(size, strong=strong, table=table).boundingRect(box, WRAP, text).height()


def elided(text: str, width: int, size: str, *, strong: bool = False, table: bool = False) -> str:
    """A line as it fits into a width, its end left out where it does not."""
    if text_width(text, size, strong=strong, table=table) <= width:
        return text
    font = metrics(size, strong=strong, table=table)
    return font.elidedText(text, Qt.TextElideMode.ElideRight, width)


def metrics(size: str, *, strong: bool = False, table: bool = False) -> QFontMetrics:
    """The measures of a font of the theme."""
    return _metrics(size, strong, table, THEME.percent)


@lru_cache(maxsize=64)
def _metrics(size: str, strong: bool, table: bool, percent: int) -> QFontMetrics:
    return QFontMetrics(THEME.font(size, strong=strong, table=table))
