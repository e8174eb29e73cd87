"""The field of a duty: its steps as people write them, in amps or watts."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from lumvak.core.duty import parse_duty, spell_duty
from lumvak.core.need import Need
from lumvak.core.project import ProjectError
from lumvak.core.units import QuantityError
from lumvak.ui.fields import bound_choice, mark_bad
from lumvak.ui.session import Session
from lumvak.ui.theme import THEME


class DutyField(QWidget):
    """Steps such as ``40 A 8 s, 18 A 40 s``; a bad step is named and changes nothing."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown = ""
        self.edit = QLineEdit()
        self.edit.setAccessibleName("Duty")
        self.unit = bound_choice(
            session, "need.duty_unit", (("A", "amps"), ("W", "watts")), "Duty in"
        )
        self.problem = QLabel()
        self.problem.setObjectName("bad")
        self.problem.setFont(THEME.font("note", table=True))
        self.problem.setWordWrap(True)
        self.problem.hide()
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(THEME.px(3))
        head = QHBoxLayout()
        head.addWidget(QLabel("Steps that repeat"))
        head.addStretch(1)
        head.addWidget(self.unit)
        outer.addLayout(head)
        outer.addWidget(self.edit)
        outer.addWidget(self.problem)
        self.edit.editingFinished.connect(self.commit)

    def show_need(self, need: Need) -> None:
        """Show the duty of the project."""
        self.unit.show_value(need.duty_unit)
        text = spell_duty(need.duty, need.duty_unit)
        if text != self._shown:
            self._shown = text
            self.edit.setText(text)
            self._mark("")

    def commit(self) -> None:
        """Read the steps and edit the project; what cannot be read is explained."""
        text = self.edit.text().strip()
        if text == self._shown:
            self._mark("")
            return
        try:
            steps = parse_duty(text, self.session.project.need.duty_unit)
            self.session.edit({"need.duty": tuple(step.model_dump() for step in steps)})
        except (QuantityError, ProjectError) as error:
            self._mark(str(error))
        else:
            self._mark("")
            self.edit.setText(self._shown)

    def _mark(self, problem: str) -> None:
        mark_bad(self.edit, self.problem, problem)
