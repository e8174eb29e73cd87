"""The words of the glossary, and the one that a widget shows."""

from __future__ import annotations

import re
from functools import cache

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QAbstractButton, QHeaderView, QLabel, QWidget

from lumvak.ui.handbook.pages import WORDS, page_text
from lumvak.ui.widgets.figure_label import FigureLabel

ENTRY = re.compile(r"^\*\*(.+?)\*\*:", re.MULTILINE)


@cache
def terms() -> dict[str, str]:
    """Every word that is looked for, in small letters, and the head of its entry."""
    return {
        word.strip().lower(): head
        for head in ENTRY.findall(page_text(WORDS))
        for word in head.split(",")
    }


def term_in(text: str) -> str:
    """Head of the entry of the longest term that stands in a text; empty where none does.

    A term stands there in its plural too.
    """
    plain = text.lower()
    found = (
        word for word in terms() if re.search(rf"(?<!\w){re.escape(word)}(?:s|es)?(?!\w)", plain)
    )
    longest = max(found, key=len, default="")
    return terms().get(longest, "")


def text_at(widget: QWidget | None, place: QPoint) -> str:
    """The words that a widget shows at a place of the screen; empty for what is no label."""
    # A figure is a button that writes its words itself.
    if isinstance(widget, FigureLabel):
        return widget.accessibleName()
    if isinstance(widget, QLabel | QAbstractButton):
        return widget.text()
    header = widget.parent() if widget is not None else None
    if isinstance(header, QHeaderView) and widget is not None:
        section = header.logicalIndexAt(widget.mapFromGlobal(place))
        model = header.model()
        shown = model.headerData(section, header.orientation()) if model is not None else None
        return str(shown or "")
    return ""
