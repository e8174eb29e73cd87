"""The menus of the window, made from what it can do, with the keys of everything that has any."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from functools import partial
from pathlib import Path
from typing import Protocol, TypeVar

from msgspec import Struct
from PyQt6.QtGui import QAction, QKeySequence, QShortcut
from PyQt6.QtWidgets import QMainWindow, QMenu

from lumvak.files.kept.window_settings import Settings
from lumvak.files.samples import WAYS, samples_by_way
from lumvak.ui.exports import BEGIN_GROUPS, EXPORTS
from lumvak.ui.handbook.pages import ABOUT, WINDOW, WORDS
from lumvak.ui.laid_over.apart import Apart
from lumvak.ui.session import Session
from lumvak.ui.shell.moving import SPLITS, move_splitter
from lumvak.ui.shell.project_files import ProjectFiles
from lumvak.ui.speech import worded
from lumvak.ui.stages.order import FIRST, STAGES
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
    entries: tuple[MenuEntry | None, ...] = ()
    fill: Callable[[QMenu], None] | None = None


def entries(
    named: Iterable[tuple[str, T]], do: Callable[[T], object], kind: str
) -> tuple[MenuEntry, ...]:
    """Lines that ``do`` the same with other things; found as what ``kind`` of thing they are."""
    return tuple(MenuEntry(text, partial(do, it), found_as=f"{kind}: {text}") for text, it in named)


def stage_entries(go_to: Callable[[str], object]) -> Iterator[MenuEntry]:
    """Every stage; ten from the first on have a key."""
    first = next(place for place, stage in enumerate(STAGES) if stage.key == FIRST)
    for place, stage in enumerate(STAGES, 1 - first):
        keys = (f"Alt+{place % 10}",) * (0 < place < 11)
        yield MenuEntry(stage.name, partial(go_to, stage.key), keys)


def sample_entries(open_sample: Callable[[Path], object]) -> Iterator[MenuEntry | None]:
    """Every sample project, parted by the way in which it begins."""
    for way, known in samples_by_way().items():
        if way != next(iter(WAYS)):
            yield None
        yield from entries(known, open_sample, worded("Sample, {}", WAYS[way].lower()))


def size_entries(set_text: Callable[[int], object]) -> Iterator[MenuEntry]:
    """Every size of text, in per cent of the plain one."""
    for percent in TEXT_SIZES:
        keys = ("Ctrl+0",) * (percent == 100)
        yield MenuEntry(worded("Text at {} %", percent), partial(set_text, percent), keys)


def export_entries(export: Callable[[str], object]) -> Iterator[MenuEntry | None]:
    """Every form that a pack goes out in, with what it is for at the end of the line."""
    for name, to, use in EXPORTS:
        if to in BEGIN_GROUPS:
            yield None
        yield MenuEntry(f"{name}\t{use}", partial(export, to), found_as=worded("Export: {}", name))


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


class MenuOwner(Protocol):
    """A window as its menus know it: what it has, and what it does."""

    files: ProjectFiles
    menus: Menus
    session: Session
    settings: Settings

    def another_window(self) -> None: ...
    def ask_preferences(self) -> None: ...
    def begin_bench(self) -> None: ...
    def close(self) -> bool: ...

    def copy_picture(self) -> None: ...

    def copy_rows(self, *, here: bool = False) -> None: ...
    def drawings_as_rows(self) -> None: ...
    def export(self, to: str) -> None: ...
    def find_anything(self) -> None: ...
    def forget_recent(self) -> None: ...
    def full_screen(self) -> None: ...
    def go_to(self, key: str) -> None: ...
    def next_part(self, step: int) -> None: ...
    def open_handbook(self) -> None: ...
    def print_it(self) -> None: ...

    def preview(self) -> None: ...

    def set_text(self, percent: int) -> None: ...
    def show_handbook(self, page: str) -> None: ...
    def swap(self, part: str) -> None: ...
    def swap_sheet(self) -> None: ...
    def to_view(self, *, number: int | None = None, step: int = 0) -> None: ...
    def zoom(self, step: int) -> None: ...


def fill_menus(window: MenuOwner, over: QMainWindow) -> None:
    """The menus of a window, which dialogs stand ``over``; it is long, for it lists all of them."""
    files, menus, forget = window.files, window.menus, window.forget_recent
    apart = Apart(over, window.session, files)
    menus.add(
        "&Project",
        (
            MenuEntry("&New …", apart.begin, ("Ctrl+N",)),
            MenuEntry("&Open …", files.ask_open, ("Ctrl+O",)),
            Below(
                "&Recent",
                fill=lambda menu: menus.fill_recent(
                    menu, window.settings.recent, lambda name: files.open(Path(name)), forget
                ),
            ),
            Below("Sa&mples", tuple(sample_entries(files.open_sample))),
            MenuEntry("S&helf: the projects of a folder …", apart.shelf),
            MenuEntry("Another &window", window.another_window, ("Ctrl+Shift+N",)),
            None,
            MenuEntry("&Save", files.save, ("Ctrl+S",)),
            MenuEntry("Save &as …", files.save_as, ("Ctrl+Shift+S",)),
            Below("&Export", tuple(export_entries(window.export))),
            None,
            MenuEntry("&Print the sheet of this stage …", window.print_it, ("Ctrl+P",)),
            MenuEntry("Print previe&w …", window.preview, ("Ctrl+Shift+P",)),
            None,
            MenuEntry("&Quit", window.close, ("Ctrl+Q",)),
        ),
    )
    stack = window.session.undo_stack
    undo, redo = stack.createUndoAction(over, "Undo"), stack.createRedoAction(over, "Redo")
    assert undo is not None and redo is not None
    undo.setShortcuts([QKeySequence("Ctrl+Z")])
    redo.setShortcuts([QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")])
    finder = MenuEntry("&Find anything …", window.find_anything, ("Ctrl+F", "Ctrl+K"))
    preferences = MenuEntry("&Preferences …", window.ask_preferences, ("Ctrl+,",))
    copies = (
        MenuEntry("&Copy rows", window.copy_rows, ("Ctrl+C",)),
        MenuEntry("Copy this &row", partial(window.copy_rows, here=True), ("Ctrl+Alt+C",)),
        MenuEntry("Copy as &picture", window.copy_picture, ("Ctrl+Shift+C",)),
    )
    menus.add("&Edit", (undo, redo, None, *copies, None, finder, preferences))
    menus.add(
        "&Stage",
        (
            *stage_entries(window.go_to),
            None,
            MenuEntry("Next &view", partial(window.to_view, step=1), ("Ctrl+PgDown",)),
            MenuEntry("View &before", partial(window.to_view, step=-1), ("Ctrl+PgUp",)),
            MenuEntry("&Drawings as rows", window.drawings_as_rows, ("Ctrl+T",)),
            MenuEntry("&Bench mode: step by step", window.begin_bench, ("F9",)),
            MenuEntry("Pr&actise: find what is wrong …", apart.practise),
            None,
            MenuEntry("Next &part of the window", partial(window.next_part, 1), ("F6",)),
            MenuEntry("Part before", partial(window.next_part, -1), ("Shift+F6",)),
        ),
    )
    for number in range(9):
        menus.keys(f"Ctrl+{number + 1}", partial(window.to_view, number=number))
    for keys, across, down in SPLITS:
        menus.keys(keys, partial(move_splitter, across, down))
    menus.add(
        "&View",
        (
            MenuEntry("Light or &dark sheet", window.swap_sheet, ("Ctrl+D",)),
            MenuEntry("Fold or open the &build line", partial(window.swap, "line"), ("Ctrl+B",)),
            MenuEntry("Fold or open the &margin", partial(window.swap, "margin"), ("Ctrl+M",)),
            MenuEntry("Fold or open the current &path", partial(window.swap, "path"), ("Ctrl+J",)),
            None,
            MenuEntry("&Larger text", partial(window.zoom, 1), ("Ctrl++", "Ctrl+=")),
            MenuEntry("&Smaller text", partial(window.zoom, -1), ("Ctrl+-",)),
            *size_entries(window.set_text),
            None,
            MenuEntry("&Full screen", window.full_screen, ("F11",)),
        ),
    )
    menus.add(
        "Hand&book",
        (
            MenuEntry("This word, or this stage", window.open_handbook, ("F1",)),
            MenuEntry("Words", partial(window.show_handbook, WORDS), ("Shift+F1",)),
            MenuEntry("The window and its keys", partial(window.show_handbook, WINDOW)),
            *entries([(item.name, item.key) for item in STAGES], window.show_handbook, "Handbook"),
            None,
            MenuEntry("&About Lumvak", partial(window.show_handbook, ABOUT)),
        ),
    )
