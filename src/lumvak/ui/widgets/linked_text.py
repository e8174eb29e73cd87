"""Text that is painted in lines, with places in it that can be clicked."""

from __future__ import annotations

import re
from collections.abc import Sequence

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QTextCharFormat, QTextLayout, QTextLine, QTextOption

from lumvak.core.figures.mentioned import Mention
from lumvak.ui.widgets.theme import THEME

HELD = re.compile(r"(?<=\d) (?=[A-Za-z%°µΩ])")


class LinkedText:
    """A text laid out for a width; the places of figures in it are underlined with dots."""

    def __init__(
        self, text: str, mentions: Sequence[Mention], width: float, size: str, *, strong: bool
    ) -> None:
        self.mentions = tuple(mentions)
        # A number and its unit stay in one line; no character more or less.
        self._layout = QTextLayout(HELD.sub("\u00a0", text), THEME.font(size, strong=strong))
        option = QTextOption()
        option.setWrapMode(QTextOption.WrapMode.WordWrap)
        self._layout.setTextOption(option)
        formats = []
        for item in self.mentions:
            dotted = QTextCharFormat()
            dotted.setUnderlineStyle(QTextCharFormat.UnderlineStyle.DotLine)
            dotted.setUnderlineColor(THEME.colour("verdigris"))
            place = QTextLayout.FormatRange()
            place.start, place.length, place.format = item.start, item.end - item.start, dotted
            formats.append(place)
        self._layout.setFormats(formats)
        self._layout.beginLayout()
        top = 0.0
        while (line := self._layout.createLine()).isValid():
            line.setLineWidth(max(width, 1.0))
            line.setPosition(QPointF(0.0, top))
            top += line.height()
        self._layout.endLayout()
        self.height = round(top + 0.49)

    def draw(self, painter: QPainter, left: float, top: float) -> None:
        """Paint it with its upper left corner there, in the painter's pen."""
        self._layout.draw(painter, QPointF(left, top))

    def key_at(self, x: float, y: float) -> str:
        """Key of the figure at a place within it; empty where there is none."""
        for number in range(self._layout.lineCount()):
            line = self._layout.lineAt(number)
            if not line.y() <= y < line.y() + line.height():
                continue
            at = line.xToCursor(x, QTextLine.CursorPosition.CursorOnCharacter)
            return next((item.key for item in self.mentions if item.start <= at < item.end), "")
        return ""
