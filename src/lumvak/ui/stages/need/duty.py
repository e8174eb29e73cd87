"""The duty: its steps in a table, presets to begin from, and logs to take it from."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from msgspec.structs import asdict
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lumvak.core.document.edit import ProjectError
from lumvak.core.document.need import Need
from lumvak.core.need.duty import PRESETS, Preset, parse_duty, preset_steps
from lumvak.core.units import CURRENT, POWER, SECONDS, Kind, QuantityError
from lumvak.files.logs.duty_log import read_duty_log
from lumvak.files.problem import FileProblem, read_text
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, said_of, spell, spoken, worded
from lumvak.ui.widgets.grid import Grid
from lumvak.ui.widgets.grid_columns import GridColumn, Record, quantity_column
from lumvak.ui.widgets.quantity_field import FieldChoice, edit_or_why, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft


class DutyPanel(QWidget):
    """Steps of amps or watts and seconds that repeat; a bad entry is named and changes nothing."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.unit = FieldChoice(
            session, "need.duty_unit", (("A", "amps"), ("W", "watts")), "Duty in"
        )
        self.grid = Grid(
            "Duty",
            (
                GridColumn("load", "amount", self._read_amount, self._spell_amount),
                quantity_column("lasts", "seconds", SECONDS),
            ),
            self._take,
            lambda: {"amount": 0.0, "seconds": 10.0},
            (2, 5),
            self._paste,
        )
        self.grid.setToolTip(
            in_words(
                "Steps that repeat. Paste “40 A 8 s, 18 A 40 s”, or lines of time and current of a "
                "log"
            )
        )
        self.presets = QPushButton("begin from …")
        menu = QMenu(self)
        for preset in PRESETS:
            action = menu.addAction(in_words(preset.name))
            if action is not None:
                action.triggered.connect(partial(self._begin, preset))
        self.presets.setMenu(menu)
        self.log = QPushButton("from a log …")
        self.log.setToolTip(in_words("A CSV file with time and current or power"))
        self.log.clicked.connect(self._ask_log)
        self.grid.foot.addWidget(self.presets)
        self.grid.foot.addWidget(self.log)
        self.about = soft("", wrap=True)
        self.about.setFont(THEME.font("note", table=True))
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(3))
        head = QHBoxLayout()
        head.addWidget(plain("Steps that repeat"))
        head.addStretch(1)
        head.addWidget(self.unit)
        outer.addLayout(head)
        outer.addWidget(self.grid)
        outer.addWidget(self.about)
        self.about.hide()

    def _kind(self) -> Kind:
        return CURRENT if self.session.project.need.duty_unit == "A" else POWER

    def _read_amount(self, text: str, _: Record) -> Any:
        return parse(text, self._kind())

    def _spell_amount(self, value: Any, _: Record) -> str:
        return spell(value, self._kind())

    def show_need(self, need: Need) -> None:
        """Show the duty of the project."""
        if not self.isHidden():
            self.grid.show_records([asdict(step) for step in need.duty], need.duty_unit)

    def _take(self, records: list[Record]) -> str:
        if problem := edit_or_why(self.session, {"need.duty": tuple(records)}, "duty"):
            return problem
        self.about.hide()
        return ""

    def _paste(self, text: str) -> list[Record]:
        unit = self.session.project.need.duty_unit
        try:
            steps = parse_duty(text, unit)
        except QuantityError as error:
            try:
                log = read_duty_log(text, "the clipboard", unit)
            except FileProblem as problem:
                raise QuantityError(worded("{}; nor as a log: {}", error, problem)) from error
            steps = log.steps
        return [asdict(step) for step in steps]

    def _begin(self, preset: Preset) -> None:
        need = self.session.project.need
        amount = need.current_a if need.duty_unit == "A" else need.power_w
        steps = preset_steps(preset, amount)
        changes = {"need.duty": tuple(asdict(step) for step in steps)}
        try_edit(self.session, changes, worded("duty “{}”", preset.name))
        self._say(
            worded(
                "“{}” at a continuous load of {}; our own shares, to begin from. Measure yours.",
                preset.name,
                spell(amount, self._kind()),
            )
        )

    def _ask_log(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Take the duty from a log", str(Path.home()), "Logs (*.csv *.txt *.tsv);;All (*)"
        )
        if name:
            self.take_log(Path(name))

    def take_log(self, path: Path) -> None:
        """Take the duty from a log; a problem is said and changes nothing."""
        try:
            log = read_duty_log(read_text(path), path.name, self.session.project.need.duty_unit)
            self.session.edit(
                {
                    "need.duty": tuple(asdict(step) for step in log.steps),
                    "need.duty_unit": log.unit,
                },
                worded("duty from {}", path.name),
            )
        except (FileProblem, ProjectError) as problem:
            self.session.tell("stop", said_of(problem))
            return
        self._say(f"{path.name}: {spoken(log.said)}")

    def _say(self, text: str) -> None:
        self.about.setText(text)
        self.about.show()
