"""What is noted of the cell in hand besides its readings: a remark, and a photograph of it."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QPushButton, QWidget

from lumvak.core.document.hand import HandCell
from lumvak.core.matching.readings import with_reading
from lumvak.files.reference import reference_to, referred
from lumvak.ui.photograph import KINDS, open_whole, show_small, small_picture
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.quantity_field import edit_or_why
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import soft, tip


class CellNotes(QWidget):
    """A remark to type, and the photograph: small beside it, whole where it is clicked."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.cell: HandCell | None = None
        self._shown: tuple[str, Path | None] = ("", None)
        self.remark = EntryField()
        self.remark.setAccessibleName(in_words("Remark"))
        self.remark.setPlaceholderText(in_words("remark"))
        self.remark.setMaxLength(200)
        self.remark.setFixedWidth(THEME.px(230))
        self.photo = QPushButton("photograph …")
        self.picture = QPushButton()
        self.picture.setAccessibleName(in_words("Photograph of the cell"))
        self.drop = QPushButton("not this one")
        self.missing = soft("")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(THEME.px(8))
        for widget in (self.remark, self.photo, self.picture, self.missing, self.drop):
            row.addWidget(widget)
        self.remark.editingFinished.connect(self._take_remark)
        self.photo.clicked.connect(self._ask)
        self.picture.clicked.connect(self.open)
        self.drop.clicked.connect(lambda: self._keep("photo", ""))

    def show_cell(self, cell: HandCell | None) -> None:
        """Show what is noted of a cell; nothing can be noted of one that is not there yet."""
        other = cell is None or self.cell is None or cell.number != self.cell.number
        self.cell = cell
        self.setEnabled(cell is not None)
        if other or not self.remark.isModified():
            self.remark.setText("" if cell is None else cell.remark)
            self.remark.setCursorPosition(0)
        reference = "" if cell is None else cell.photo
        self.photo.setVisible(not reference)
        self.drop.setVisible(bool(reference))
        if self._shown != (reference, self.session.path):
            self._shown = (reference, self.session.path)
            self._show_picture(reference)

    def _show_picture(self, reference: str) -> None:
        path = referred(reference, self.session.path) if reference else None
        there = show_small(self.picture, small_picture(path), reference)
        self.picture.setVisible(there)
        self.missing.setText(
            worded("{} is not to be found or is no picture", Path(reference).name[-30:])
        )
        self.missing.setToolTip(tip(reference))
        self.missing.setVisible(bool(reference) and not there)

    def open(self) -> None:
        """Open the photograph with the desktop's own program."""
        path = None if self.cell is None else referred(self.cell.photo, self.session.path)
        open_whole(path)

    def _ask(self) -> None:
        folder = Path.home() if self.session.path is None else self.session.path.parent
        name, _ = QFileDialog.getOpenFileName(self, "Photograph of the cell", str(folder), KINDS)
        if name:
            self.take_photo(Path(name))

    def take_photo(self, path: Path) -> None:
        """Refer to a photograph of the cell; what is no picture is told and not taken."""
        if small_picture(path).isNull():
            self.session.tell("warn", worded("{} is no picture that can be shown.", path.name))
            return
        self._keep("photo", reference_to(path, self.session.path))

    def _take_remark(self) -> None:
        text = self.remark.text().strip()
        if self.cell is not None and text != self.cell.remark:
            self._keep("remark", text)
        self.remark.setModified(False)

    def _keep(self, field: str, text: str) -> None:
        if self.cell is None:
            return
        number = self.cell.number
        try:
            cells = with_reading(
                self.session.project.hand.cells, number, self.cell.lot, field, text
            )
        except ValueError:
            self.session.tell(
                "warn", worded("“{}” cannot be kept with cell {}.", text[:60], number)
            )
            return
        if problem := edit_or_why(
            self.session, {"hand.cells": cells}, worded("cell {}: {}", number, field)
        ):
            self.session.tell("warn", problem)
            return
        self.session.keep_now()
