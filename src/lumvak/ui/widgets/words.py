"""Headings, soft lines and rows of widgets."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QWidget

from lumvak.ui.widgets.theme import THEME

# Text that goes on in the next line, as a flag for painters.
WRAP = int(Qt.TextFlag.TextWordWrap)


def heading(text: str) -> QLabel:
    """A section heading."""
    label = QLabel(text)
    label.setFont(THEME.font("section", strong=True))
    return label


def soft(text: str, *, wrap: bool = False) -> QLabel:
    """A line of soft text."""
    label = QLabel(text)
    label.setObjectName("soft")
    label.setFont(THEME.font("table"))
    label.setWordWrap(wrap)
    return label


def side_by_side(*fields: QWidget) -> QWidget:
    """Fields in one row, packed to the left."""
    row = QWidget()
    layout = QHBoxLayout(row)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(THEME.px(10))
    for field in fields:
        layout.addWidget(field)
    layout.addStretch(1)
    return row
