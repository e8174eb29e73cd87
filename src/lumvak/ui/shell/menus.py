"""The menus of the window, with the keys of everything that has one."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtGui import QAction, QKeySequence, QShortcut
from PyQt6.QtWidgets import QMenu

from lumvak.files.samples import samples
from lumvak.ui.exports import EXPORTS
from lumvak.ui.shell.handbook import WINDOW, WORDS
from lumvak.ui.shell.moving import move_splitter
from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.theme import TEXT_SIZES
from lumvak.ui.widgets.words import tip

if TYPE_CHECKING:
    from lumvak.ui.shell.window import Window

# Keys that move the line between two panes, and the way they move it.
SPLITS = (
    ("Ctrl+Alt+Left", -1, 0), ("Ctrl+Alt+Right", 1, 0),
    ("Ctrl+Alt+Up", 0, -1), ("Ctrl+Alt+Down", 0, 1),
)  # fmt: skip
PLAIN_PERCENT = 100


class Menus:
    """Fills the menu bar of a window."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self.actions: list[QAction] = []
        self.recent = QMenu("&Recent", window)
        self.recent.aboutToShow.connect(self._fill_recent)
        self._project()
        self._edit()
        self._stage()
        self._sheet()
        self._handbook()

    def _action(self, menu: QMenu, text: str, do: Callable[[], object], *keys: str) -> QAction:
        action = QAction(text, self._window)
        action.setShortcuts([QKeySequence(key) for key in keys])
        action.triggered.connect(lambda _=False: do())
        menu.addAction(action)
        if menu is not self.recent:
            self.actions.append(action)
        return action

    def _menu(self, title: str) -> QMenu:
        bar = self._window.menuBar()
        assert bar is not None
        menu = bar.addMenu(title)
        assert menu is not None
        return menu

    def _below(self, menu: QMenu, title: str) -> QMenu:
        below = menu.addMenu(title)
        assert below is not None
        return below

    def _keys(self, keys: str, do: Callable[[], object]) -> None:
        """Keys of something that stands in no menu."""
        QShortcut(QKeySequence(keys), self._window).activated.connect(do)

    def _project(self) -> None:
        window, menu = self._window, self._menu("&Project")
        self._action(menu, "&New", window.files.new, "Ctrl+N")
        self._action(menu, "&Open …", window.files.ask_open, "Ctrl+O")
        menu.addMenu(self.recent)
        below = self._below(menu, "Sa&mples")
        for name, path in samples():
            self._action(below, f"Sample: {name}", partial(window.files.open_sample, path))
        menu.addSeparator()
        self._action(menu, "&Save", window.files.save, "Ctrl+S")
        self._action(menu, "Save &as …", window.files.save_as, "Ctrl+Shift+S")
        below = self._below(menu, "&Export")
        for to, text in EXPORTS:
            self._action(below, f"Export: {text}", partial(window.export, to))
        menu.addSeparator()
        self._action(menu, "&Print this view …", window.print_view, "Ctrl+P")
        self._action(menu, "Print previe&w …", window.preview, "Ctrl+Shift+P")
        menu.addSeparator()
        self._action(menu, "&Quit", window.close, "Ctrl+Q")

    def _edit(self) -> None:
        window, menu = self._window, self._menu("&Edit")
        stack = window.session.undo_stack
        undo, redo = stack.createUndoAction(window, "Undo"), stack.createRedoAction(window, "Redo")
        for made, keys in ((undo, ("Ctrl+Z",)), (redo, ("Ctrl+Shift+Z", "Ctrl+Y"))):
            assert made is not None
            made.setShortcuts([QKeySequence(key) for key in keys])
            menu.addAction(made)
            # Kept here: Qt leaves them to whoever asked for them.
            self.actions.append(made)
        menu.addSeparator()
        self._action(menu, "&Find anything …", window.find_anything, "Ctrl+F", "Ctrl+K")

    def _stage(self) -> None:
        window, menu = self._window, self._menu("&Stage")
        for place, item in enumerate(STAGES, 1):
            keys = (f"Alt+{place % 10}",) if place <= 10 else ()
            self._action(menu, item.name, partial(window.go_to, item.key), *keys)
        menu.addSeparator()
        self._action(menu, "Next &view", partial(window.turn_view, 1), "Ctrl+PgDown")
        self._action(menu, "View &before", partial(window.turn_view, -1), "Ctrl+PgUp")
        for number in range(9):
            self._keys(f"Ctrl+{number + 1}", partial(window.open_view, number))
        self._action(menu, "&Bench mode: step by step", window.begin_bench, "F9")
        self._action(menu, "Next &part of the window", partial(window.next_part, 1), "F6")
        self._action(menu, "Part before", partial(window.next_part, -1), "Shift+F6")

    def _sheet(self) -> None:
        window, menu = self._window, self._menu("S&heet")
        self._action(menu, "Light or &dark", window.swap_sheet, "Ctrl+D")
        for part, name, keys in (
            ("line", "&build line", "Ctrl+B"),
            ("margin", "&margin", "Ctrl+M"),
            ("path", "current &path", "Ctrl+J"),
        ):
            self._action(menu, f"Fold or open the {name}", partial(window.swap, part), keys)
        for keys, across, down in SPLITS:
            self._keys(keys, partial(move_splitter, across, down))
        menu.addSeparator()
        self._action(menu, "&Larger text", partial(window.zoom, 1), "Ctrl++", "Ctrl+=")
        self._action(menu, "&Smaller text", partial(window.zoom, -1), "Ctrl+-")
        for percent in TEXT_SIZES:
            plain = ("Ctrl+0",) if percent == PLAIN_PERCENT else ()
            self._action(menu, f"Text at {percent} %", partial(window.set_text, percent), *plain)
        menu.addSeparator()
        self._action(menu, "&Full screen", window.full_screen, "F11")

    def _handbook(self) -> None:
        window, menu = self._window, self._menu("Hand&book")
        self._action(menu, "This word, or this stage", window.open_handbook, "F1")
        self._action(menu, "Words", partial(window.show_handbook, WORDS), "Shift+F1")
        self._action(menu, "The window and its keys", partial(window.show_handbook, WINDOW))
        for item in STAGES:
            self._action(menu, f"{item.name}, page", partial(window.show_handbook, item.key))
        menu.addSeparator()
        self._action(menu, "&About Lumvak", window.about)

    def _fill_recent(self) -> None:
        self.recent.clear()
        files, names = self._window.files, self._window.settings.recent
        for name in names:
            opened = self._action(self.recent, Path(name).name, partial(files.open, Path(name)))
            opened.setToolTip(tip(name))
        self.recent.setToolTipsVisible(True)
        if names:
            self.recent.addSeparator()
            self._action(self.recent, "Forget these", self._window.forget_recent)
        else:
            nothing = self.recent.addAction("nothing yet")
            assert nothing is not None
            nothing.setEnabled(False)
