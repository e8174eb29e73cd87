"""The lot in hand: what its cells are said to be, and how they were measured."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QLabel, QPushButton, QVBoxLayout, QWidget

from lumvak.core import units
from lumvak.core.document.hand import Lot
from lumvak.core.evaluation import Evaluation
from lumvak.core.fields import fields_of
from lumvak.core.units import Kind, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, spell, worded
from lumvak.ui.widgets.choice import ChoiceRow, list_box
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing
from lumvak.ui.widgets.quantity_field import edit_or_why, mark_bad, small_field
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, side_by_side, soft

ORIGINS = (("new", "new"), ("reclaimed", "reclaimed, unused"), ("used", "used"))
BY = (("dc", "DC pulse"), ("ac", "AC"))
# How a lot was measured, and what is known of it: the field, what stands before it, its kind.
PULSE: tuple[tuple[str, str, Kind], ...] = (
    ("pulse_s", "pulse of", units.SECONDS), ("pulse_charge", "at", units.FRACTION),
    ("pulse_c", "and", units.TEMPERATURE),
)  # fmt: skip
CAPACITY: tuple[tuple[str, str, Kind], ...] = (
    ("capacity_a", "capacity at", units.CURRENT), ("capacity_to_v", "down to", units.VOLTAGE),
)  # fmt: skip
KINDS = {name: kind for name, _, kind in (*PULSE, *CAPACITY)}
TEXTS = (("day", "day", "2026-05-31", 92), ("word", "supplier's claim", "“never used”", 190))
TITLES = {name: field.title or name for name, field in fields_of(Lot).items()}


class LotRows(QWidget):
    """Which lot is in hand, what it is, and, where one asks for it, how it was measured."""

    turned = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.which = list_box("Lot")
        self.another = QPushButton("another lot")
        self.cell = QComboBox()
        self.cell.setAccessibleName(in_words("Sold as"))
        self.origin = ChoiceRow(ORIGINS, "Origin")
        self.by = ChoiceRow(BY, "Resistance measured by")
        self.how = QPushButton()
        self.how.setCheckable(True)
        self.meter = {
            name: small_field(session, f"hand.meter.{name}", words)
            for name, words in (
                ("percent", "meter within ±"),
                ("digits", "and"),
                ("counts", "digits of"),
            )
        }
        self.entries: dict[str, EntryField] = {}
        self.problem: QLabel = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.pulse = side_by_side(*self._fields(PULSE))
        self.more = flowing(
            self.pulse,
            side_by_side(*self._fields(CAPACITY)),
            *(
                side_by_side(soft(words), self._entry(name, wide, like))
                for name, words, like, wide in TEXTS
            ),
            side_by_side(*self.meter.values()),
            gap=12,
        )
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(6))
        outer.addWidget(
            flowing(
                side_by_side(soft("lot"), self.which),
                self.another,
                side_by_side(soft("sold as"), self.cell),
                self.origin,
                side_by_side(soft("resistance by"), self.by),
                self.how,
                gap=12,
            )
        )
        outer.addWidget(self.more)
        outer.addWidget(self.problem)
        self.which.activated.connect(self._turn)
        self.another.clicked.connect(self._another)
        self.cell.activated.connect(lambda _: self._change(cell=self.cell.currentData() or None))
        self.origin.picked.connect(lambda value: self._change(origin=value))
        self.by.picked.connect(lambda value: self._change(resistance_by=value))
        self.how.toggled.connect(self._open)
        self._open(False)

    def _open(self, wide: bool) -> None:
        self.how.setText(worded("{} how it was measured", "▾" if wide else "▸"))
        self.more.setVisible(wide)

    def _turn(self) -> None:
        # What could not be read was of the other lot.
        for entry in self.entries.values():
            entry.setModified(False)
            mark_bad(entry, self.problem, "")
        self.turned.emit()

    def _fields(self, fields: tuple[tuple[str, str, Kind], ...]) -> list[QWidget]:
        made: list[QWidget] = []
        for name, words, _ in fields:
            made += [soft(words), self._entry(name, 74, "not said")]
        return made

    def _entry(self, name: str, wide: int, like: str) -> EntryField:
        entry = EntryField()
        entry.setAccessibleName(TITLES[name])
        entry.setPlaceholderText(like)
        entry.setFixedWidth(THEME.px(wide))
        entry.editingFinished.connect(lambda: self._take(name))
        self.entries[name] = entry
        return entry

    @property
    def lot(self) -> Lot:
        """The lot in hand."""
        lots = self.session.project.hand.lots
        return lots[min(max(self.which.currentIndex(), 0), len(lots) - 1)]

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show the lots of an evaluation."""
        names = [lot.name for lot in evaluation.project.hand.lots]
        if [self.which.itemText(place) for place in range(self.which.count())] != names:
            at = max(self.which.currentIndex(), 0)
            self.which.clear()
            self.which.addItems(names)
            self.which.setCurrentIndex(min(at, len(names) - 1))
        lot = self.lot
        offer_cells(self.cell, evaluation, lot.cell)
        self.origin.show_value(lot.origin)
        self.by.show_value(lot.resistance_by)
        self.pulse.setVisible(lot.resistance_by == "dc")
        for name, entry in self.entries.items():
            if not entry.isModified():
                entry.setText(_spelled(lot, name))
                entry.setCursorPosition(0)

    def _take(self, name: str) -> None:
        """Take what was typed of the lot; what cannot be read stays and is explained."""
        entry = self.entries[name]
        text = entry.text().strip()
        if text == _spelled(self.lot, name):
            entry.setModified(False)
            mark_bad(entry, self.problem, "")
            return
        try:
            value: Any = text if name not in KINDS else parse(text, KINDS[name]) if text else None
            problem = self._changed({name: value})
        except QuantityError as error:
            problem = f"{TITLES[name]}: {error}"
        entry.setModified(bool(problem))
        mark_bad(entry, self.problem, problem)
        if not problem:
            entry.setText(_spelled(self.lot, name))

    def _changed(self, changes: dict[str, Any]) -> str:
        at = max(self.which.currentIndex(), 0)
        lots = [
            {**asdict(lot), **changes} if place == at else lot
            for place, lot in enumerate(self.session.project.hand.lots)
        ]
        problem = edit_or_why(
            self.session, {"hand.lots": tuple(lots)}, worded("lot {}", self.lot.name)
        )
        return re.sub(r" \(hand\.lots[^)]*\)", "", problem)

    def _change(self, **changes: object) -> None:
        if problem := self._changed(changes):
            self.session.tell("warn", problem)

    def _another(self) -> None:
        lots = self.session.project.hand.lots
        names = {lot.name for lot in lots}
        name = next(
            worded("lot {}", place)
            for place in range(1, len(lots) + 2)
            if worded("lot {}", place) not in names
        )
        fresh = (*lots, Lot(name=name))
        if problem := edit_or_why(self.session, {"hand.lots": fresh}, "another lot"):
            self.session.tell("warn", problem)
            return
        self.show_evaluation(self.session.evaluation)
        self.which.setCurrentIndex(len(fresh) - 1)
        self._turn()


def offer_cells(box: QComboBox, evaluation: Evaluation, chosen: str | None) -> None:
    """Offer the pack's own cell and all others in a list, and show which is chosen."""
    wanted = [
        ("", worded("the pack's: {}", evaluation.sized.choice.cell.name)),
        *((cell.id, cell.name) for cell in evaluation.sized.parts.cell_list),
    ]
    held = [(box.itemData(at), box.itemText(at)) for at in range(box.count())]
    if held != wanted:
        box.clear()
        for key, name in wanted:
            box.addItem(name, key)
    box.setCurrentIndex(max(box.findData(chosen or ""), 0))


def _spelled(lot: Lot, name: str) -> str:
    value = getattr(lot, name)
    if value is None:
        return ""
    spelled: Callable[[Any], str] = str if name not in KINDS else lambda it: spell(it, KINDS[name])
    return spelled(value)
