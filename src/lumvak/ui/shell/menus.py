"""The menus of the window, made from what it can do, with the keys of everything that has any."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import partial
from pathlib import Path
from typing import TypeVar

from msgspec import Struct
from PyQt6.QtGui import QAction, QKeySequence, QShortcut
from PyQt6.QtWidgets import QMainWindow, QMenu

from lumvak.ui.stages.order import STAGES
from lumvak.ui.widgets.theme import TEXT_SIZES
from lumvak.ui.widgets.words import tip

Do = Callable[[], object]
T = TypeVar("T")


class MenuEntry(Struct, frozen=True):
    """A line of a menu: its text, what it does, its keys.

    ``found_as`` is how it is called where it is found without its menu.
    """

    text: str
    do: Do
    keys: tuple[str, ...] = ()
    found_as: str = ""


class Below(Struct, frozen=True):
    """A menu within a menu; ``fill`` is called with it each time it is opened, if given."""

    title: str
    entries: tuple[MenuEntry, ...] = ()
    fill: Callable[[QMenu], None] | None = None


def entries(
    named: Iterable[tuple[str, T]], do: Callable[[T], object], kind: str
) -> tuple[MenuEntry, ...]:
    """Lines that ``do`` the same with other things; found as what ``kind`` of thing they are."""
    return tuple(MenuEntry(text, partial(do, it), found_as=f"{kind}: {text}") for text, it in named)


def stage_entries(go_to: Callable[[str], object]) -> Iterator[MenuEntry]:
    """Every stage; the first ten have a key."""
    for place, stage in enumerate(STAGES, 1):
        keys = (f"Alt+{place % 10}",) * (place < 11)
        yield MenuEntry(stage.name, partial(go_to, stage.key), keys)


def size_entries(set_text: Callable[[int], object]) -> Iterator[MenuEntry]:
    """Every size of text, in per cent of the plain one."""
    for percent in TEXT_SIZES:
        keys = ("Ctrl+0",) * (percent == 100)
        yield MenuEntry(f"Text at {percent} %", partial(set_text, percent), keys)


# What stands in a menu: entries, menus within, actions that are there already, None for a line.
Item = MenuEntry | Below | QAction | None


class Menus:
    """Fills the menu bar of a window; ``actions`` are all that can be done, with their names."""

    def __init__(self, window: QMainWindow) -> None:
        self._window = window
        self.actions: list[tuple[str, QAction]] = []
        self.filled: dict[str, QMenu] = {}

    def add(self, title: str, items: Sequence[Item]) -> None:
        """Add a menu."""
        bar = self._window.menuBar()
        menu = None if bar is None else bar.addMenu(title)
        assert menu is not None
        for item in items:
            self._put(menu, item)

    def _put(self, menu: QMenu, item: Item) -> None:
        if item is None:
            menu.addSeparator()
        elif isinstance(item, QAction):
            # Kept here: Qt leaves them to whoever asked for them.
            self.actions.append((item.text(), item))
            menu.addAction(item)
        elif isinstance(item, MenuEntry):
            action = self.action(item)
            self.actions.append((item.found_as or item.text, action))
            menu.addAction(action)
        else:
            self._put_below(menu, item)

    def _put_below(self, menu: QMenu, item: Below) -> None:
        below = menu.addMenu(item.title)
        assert below is not None
        self.filled[item.title.replace("&", "")] = below
        for entry in item.entries:
            self._put(below, entry)
        if (fill := item.fill) is not None:
            below.setToolTipsVisible(True)
            below.aboutToShow.connect(lambda: fill(below))

    def action(self, entry: MenuEntry) -> QAction:
        """An action of the window."""
        action = QAction(entry.text, self._window)
        action.setShortcuts([QKeySequence(key) for key in entry.keys])
        action.triggered.connect(lambda _=False: entry.do())
        return action

    def keys(self, keys: str, do: Do) -> None:
        """Keys of something that stands in no menu."""
        QShortcut(QKeySequence(keys), self._window).activated.connect(do)

    def fill_recent(
        self, menu: QMenu, names: Sequence[str], again: Callable[[str], object], forget: Do
    ) -> None:
        """Fill a menu with files that were open, to be opened ``again``, and to ``forget`` them."""
        menu.clear()
        for name in names:
            made = self.action(MenuEntry(Path(name).name, partial(again, name)))
            made.setToolTip(tip(name))
            menu.addAction(made)
        if names:
            menu.addSeparator()
            menu.addAction(self.action(MenuEntry("Forget these", forget)))
        else:
            nothing = menu.addAction("nothing yet")
            assert nothing is not None
            nothing.setEnabled(False)
