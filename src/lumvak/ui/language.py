"""Another language over the window: what widgets were made with, said in the words of a reader.

Widgets are made in our own language. What stands on them from the beginning is turned here, once a
page or a layer is made; what changes later is turned where it is said (``ui/speech.py``).
"""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLabel, QLineEdit, QMenu, QWidget

from lumvak.ui.speech import SPEECH, in_words


def turn(root: QWidget) -> None:
    """Say what a widget and all within it show in the language in force; ours changes nothing."""
    if SPEECH.sentences:
        for widget in (root, *root.findChildren(QWidget)):
            _turn(widget)


def turn_window(root: QWidget) -> None:
    """Say all of a window in the language in force, its menus as well.

    Menus outlive a change of language: what they were made with is kept with them.
    """
    for action in root.findChildren(QAction):
        _kept(action, "text", action.text, action.setText)
        _kept(action, "tip", action.toolTip, action.setToolTip)
    for menu in root.findChildren(QMenu):
        _kept(menu, "title", menu.title, menu.setTitle)
    turn(root)


def _kept(
    what: QObject, name: str, read: Callable[[], str], write: Callable[[str | None], object]
) -> None:
    made_with, said = what.property(f"{name} made with") or ("", None)
    shown = read()
    ours = made_with if said == shown else shown
    # What is shown beside an entry of a menu stands behind a tab.
    turned = "\t".join(map(in_words, ours.split("\t")))
    what.setProperty(f"{name} made with", (ours, turned))
    if turned != shown:
        write(turned)


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
    for read, write in (
        (widget.toolTip, widget.setToolTip),
        (widget.accessibleName, widget.setAccessibleName),
        (widget.accessibleDescription, widget.setAccessibleDescription),
        (widget.windowTitle, widget.setWindowTitle),
    ):
        if text := read():
            write(in_words(text))
