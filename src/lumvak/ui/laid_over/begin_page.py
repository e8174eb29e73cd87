"""How a project begins: from a need, from an old tool, or from a pack as it is found."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from msgspec import Struct
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.document.edit import ProjectError, field_of, kind_of
from lumvak.core.units import COUNT, QuantityError
from lumvak.files.samples import WAYS, samples_by_way
from lumvak.ui.laid_over.over import Over
from lumvak.ui.speech import parse, said_of, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

WIDE, HIGH = 1000, 520
# Begins a project with these changes; raises ProjectError where they do not go together.
Begin = Callable[[dict[str, Any]], None]


class BeginWay(Struct, frozen=True):
    """A way to begin: what it is for, the fields that are asked at once, and what it changes."""

    key: str
    title: str
    says: str
    fields: tuple[tuple[str, str], ...]
    button: str
    changes: dict[str, Any]


BEGINS = (
    BeginWay(
        "need",
        WAYS["need"],
        "A motor, a machine or a rail wants so many volts and amps for so long. All else follows.",
        (
            ("need.rated_voltage_v", "36 V"),
            ("need.current_a", "18 A"),
            ("need.runtime_h", "1 h"),
        ),
        "begin from a need",
        {},
    ),
    BeginWay(
        "tool",
        WAYS["tool"],
        "A cordless tool whose nickel pack is dead. Its cells are counted; its housing and its "
        "contacts stay, its charger goes.",
        (
            ("need.nickel_cells", "15"),
            ("need.replaced_capacity_ah", "1.7 Ah"),
            ("need.current_a", "15 A"),
        ),
        "begin from an old tool",
        {"need.kind": "tool", "need.load_basis": "current"},
    ),
    BeginWay(
        "found",
        WAYS["found"],
        "A pack that somebody else built: bought, salvaged, worn. What was seen of it says what it "
        "may really give.",
        (
            ("as_found.promised_a", "40 A"),
            ("as_found.series_cells", "10"),
            ("as_found.parallel", "4"),
        ),
        "begin from a pack as found",
        {"as_found.begun": True},
    ),
)


class BeginPage(Over):
    """Three ways side by side; what is not known yet may stay empty."""

    def __init__(self, over: QWidget, begin: Begin, open_sample: Callable[[Path], None]) -> None:
        super().__init__(over, "How does it begin?", WIDE, HIGH)
        self._begin, self._open_sample = begin, open_sample
        self.fields: dict[str, dict[str, EntryField]] = {}
        self.buttons: dict[str, QPushButton] = {}
        self.problem = plain("")
        self.problem.setObjectName("bad")
        self.problem.setWordWrap(True)
        self.body.addWidget(heading("How does it begin?"))
        columns = QHBoxLayout()
        columns.setSpacing(THEME.px(26))
        known = samples_by_way()
        for way in BEGINS:
            columns.addLayout(self._column(way, known.get(way.key, ())), 1)
        self.body.addLayout(columns)
        self.body.addWidget(self.problem)
        self.body.addWidget(
            soft("What is not known yet stays empty. Escape leaves the project as it is.")
        )
        self.body.addStretch(1)

    def _column(self, way: BeginWay, known: tuple[tuple[str, Path], ...]) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(THEME.px(7))
        column.addWidget(heading(way.title))
        says = soft(way.says, wrap=True)
        says.setMinimumHeight(THEME.px(72))
        column.addWidget(says)
        self.fields[way.key] = {}
        for path, example in way.fields:
            field = EntryField()
            field.setPlaceholderText(example)
            field.setAccessibleName(field_of(path).title)
            field.returnPressed.connect(partial(self.begin, way))
            self.fields[way.key][path] = field
            column.addWidget(soft(field_of(path).title))
            column.addWidget(field)
        button = QPushButton(way.button)
        button.clicked.connect(partial(self.begin, way))
        self.buttons[way.key] = button
        column.addWidget(button)
        for name, file in known:
            sample = QPushButton(worded("sample: {}", name))
            sample.clicked.connect(partial(self._sample, file))
            column.addWidget(sample)
        column.addStretch(1)
        return column

    def ask(self) -> None:
        """Lie over the window, with nothing typed."""
        for fields in self.fields.values():
            for field in fields.values():
                field.clear()
        self.problem.setText("")
        self.problem.hide()
        self.lie_over()
        next(iter(self.fields["need"].values())).setFocus()

    def begin(self, way: BeginWay, _: bool = False) -> None:
        """Begin a project in a way, with what was typed for it; what cannot be read is told."""
        changes = dict(way.changes)
        try:
            for path, field in self.fields[way.key].items():
                if text := field.text().strip():
                    kind = kind_of(path)
                    value = parse(text, kind)
                    changes[path] = int(value) if kind is COUNT else value
            if way.key == "tool" and "need.nickel_cells" in changes:
                changes["need.rated_voltage_v"] = 1.2 * changes["need.nickel_cells"]
            self.leave()
            self._begin(changes)
        except (QuantityError, ProjectError) as problem:
            self.lie_over()
            self.problem.setText(said_of(problem))
            self.problem.show()

    def _sample(self, path: Path, _: bool = False) -> None:
        self.leave()
        self._open_sample(path)
