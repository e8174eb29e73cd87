"""The projects of a folder as a list: what each is, how it stands, when it is to be looked at."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QPushButton, QWidget

from lumvak.files.shelf import Shelved, shelf, sorted_by
from lumvak.ui.laid_over.over import Over
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, say, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.pages import waiting
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, keep_rows
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

WIDE, HIGH = 1060, 640
SORTS = (("name", "name"), ("due", "next day"), ("capacity", "capacity"), ("changed", "changed"))


def _of(glance: Callable[[Shelved], str]) -> Callable[[Shelved], str]:
    """Of a project that was not saved here yet, or is broken, nothing is known."""
    return lambda it: "" if it.glance is None else glance(it)


def _count(item: Shelved) -> str:
    assert item.glance is not None
    return f"{item.glance.series}S{item.glance.parallel}P"


def _full(item: Shelved) -> str:
    assert item.glance is not None
    return say(item.glance.full_v, "V")


def _capacity(item: Shelved) -> str:
    assert item.glance is not None
    return f"{say(item.glance.capacity_ah, in_words('Ah'))} {item.glance.capacity_is}"


def _standing(item: Shelved) -> str:
    assert item.glance is not None
    return item.glance.standing


COLUMNS = (
    Column(
        "project",
        lambda it: f"{it.name}: {it.problem}" if it.problem else it.name,
        left=True,
        stretch=True,
        mark=lambda it: "crimson" if it.problem else "",
        tip="Its name; red is a file that cannot be read, and why",
    ),
    Column("count", _of(_count), left=True, sample="20S20P", tip="In series, in parallel"),
    Column("full", _of(_full), sample="100.8 V", tip="Volts when full"),
    Column("capacity", _of(_capacity), left=True, sample="100 Ah measured", tip="Of the pack"),
    Column("rating", _of(_standing), left=True, sample="partly measured", tip="How it stands"),
    Column("built", lambda it: it.built or "", left=True, sample="2026-05-31", tip="Closed up"),
    Column(
        "next day",
        lambda it: "" if it.due is None else it.due.isoformat(),
        left=True,
        sample="2026-05-31",
        tip="When it is to be looked at next",
    ),
    Column(
        "changed",
        lambda it: "" if it.problem else it.changed.strftime("%Y-%m-%d"),
        left=True,
        sample="2026-05-31",
        tip="When its file was written last",
    ),
)


class ShelfPage(Over):
    """A folder, a word that is looked for, and the projects; Enter opens the one in hand."""

    def __init__(self, over: QWidget, session: Session, open_file: Callable[[Path], None]) -> None:
        super().__init__(over, "Shelf", WIDE, HIGH)
        self._session, self._open_file = session, open_file
        self.folder: Path | None = None
        self.items: list[Shelved] = []
        self.picked = ""
        self.where = soft("", wrap=True)
        self.choose = QPushButton("another folder …")
        self.search = EntryField()
        self.search.setPlaceholderText(in_words("find"))
        self.search.setAccessibleName(in_words("Find in the shelf"))
        self.search.setFixedWidth(THEME.px(160))
        self.sort = ChoiceRow(SORTS, "Sorted by")
        self.table = RowsTable(COLUMNS, "Projects")
        self.open = QPushButton("open")
        self.body.addWidget(heading("Shelf"))
        self.body.addWidget(self.where)
        self.body.addWidget(flowing(self.search, soft("by"), self.sort, self.choose, gap=8))
        self.body.addWidget(self.table, 1)
        keep_rows(self.table, 6)
        self.body.addWidget(flowing(self.open, soft("Escape leaves."), gap=8))
        self.choose.clicked.connect(self._choose)
        self.search.textChanged.connect(lambda _: self._show())
        self.sort.picked.connect(self._sorted)
        self.table.picked.connect(self._pick)
        self.open.clicked.connect(self._open)

    def ask(self) -> None:
        """Lie over the window with the folder of the project, or the one looked at before."""
        path = self._session.path
        if self.folder is None:
            self.folder = Path.home() if path is None else path.parent
        if path is None and self.folder == Path.home():
            # A whole home is not read through unasked.
            self.folder = None
        self.lie_over()
        self.look()
        self.search.setFocus()

    def _choose(self) -> None:
        start = str(self.folder or Path.home())
        if name := QFileDialog.getExistingDirectory(self, "Folder of projects", start):
            self.folder = Path(name)
            self.look()

    def look(self) -> None:
        """Read the folder."""
        self.items = []
        if self.folder is not None:
            with waiting():
                self.items = list(shelf(self.folder, date.today()))
        self._show()

    def _sorted(self, sort: str) -> None:
        self.sort.show_value(sort)
        self._show()

    def _pick(self, path: str) -> None:
        self.picked = path
        self._show()

    def _show(self) -> None:
        word = self.search.text().strip().casefold()
        found = [it for it in self.items if word in f"{it.name} {it.path.name}".casefold()]
        shown = sorted_by(found, self.sort.value)
        if self.picked not in {str(it.path) for it in shown if not it.problem}:
            self.picked = ""
        rows = []
        for it in shown:
            key = str(it.path)
            chosen = key == self.picked
            rows.append(row_of(COLUMNS, it, value=key, key=key, chosen=chosen))
        self.table.show_rows(rows)
        self.open.setEnabled(bool(self.picked))
        broken = sum(bool(it.problem) for it in self.items)
        count = worded("{} projects", len(self.items) - broken)
        told = worded("{}, {} files that cannot be read", count, broken) if broken else count
        self.where.setText(
            in_words("No folder yet: pick the one that holds your projects.")
            if self.folder is None
            else f"{self.folder}: {told}."
        )

    def _open(self) -> None:
        if self.picked:
            self.leave()
            self._open_file(Path(self.picked))
