"""Another language over the window: what widgets were made with, said in the words of a reader.

Widgets are made in our own language. What stands on them from the beginning is turned here, once a
page or a layer is made; what changes later is turned where it is said (``ui/speech.py``).
"""

from __future__ import annotations

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit, QMenu, QWidget

from lumvak.ui.speech import SPEECH, in_words


def turn(root: QWidget) -> None:
    """Say what a widget and all within it were made with in the language in force."""
    if not SPEECH.sentences:
        return
    for widget in (root, *root.findChildren(QWidget)):
        _turn(widget)
    for action in root.findChildren(QAction):
        # What is shown beside an entry of a menu stands behind a tab.
        action.setText("\t".join(map(in_words, action.text().split("\t"))))
        action.setToolTip(in_words(action.toolTip()))


def _turn(widget: QWidget) -> None:
    if isinstance(widget, QLabel | QAbstractButton):
        turned = in_words(widget.text())
        if turned != widget.text():
            widget.setText(turned)
    elif isinstance(widget, QLineEdit):
        widget.setPlaceholderText(in_words(widget.placeholderText()))
    elif isinstance(widget, QComboBox):
        for place in range(widget.count()):
            widget.setItemText(place, in_words(widget.itemText(place)))
    elif isinstance(widget, QMenu):
        widget.setTitle(in_words(widget.title()))
    for read, write in (
        (widget.toolTip, widget.setToolTip),
        (widget.accessibleName, widget.setAccessibleName),
        (widget.accessibleDescription, widget.setAccessibleDescription),
        (widget.windowTitle, widget.setWindowTitle),
    ):
        if text := read():
            write(in_words(text))
