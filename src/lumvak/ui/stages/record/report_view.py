"""The report: which parts are in it, and where it goes."""

from __future__ import annotations

from PyQt6.QtWidgets import QCheckBox, QGridLayout, QPushButton, QVBoxLayout, QWidget

from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.measured import measured
from lumvak.core.proving.proof import STANDINGS, standing_of
from lumvak.core.record_of_pack.report import TITLES
from lumvak.files.export.warning import warning_of
from lumvak.ui.exports import ask_export
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, worded
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

FORMS = (("report", "as PDF …"), ("report-html", "as HTML …"))
COLUMNS = 3


class ReportView(Page):
    """A box for each part, and what stands on every page."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.parts = {key: QCheckBox(title) for key, title in TITLES.items()}
        self.stands = plain("")
        self.stands.setWordWrap(True)
        self.stands.setObjectName("bad")
        self.saves = [QPushButton(words) for _, words in FORMS]
        self.every, self.none = QPushButton("all of it"), QPushButton("nothing")
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        outer.addWidget(
            soft(
                "In the order of the work, each number with where it comes from. The HTML is one "
                "file that opens anywhere; both print.",
                wrap=True,
            )
        )
        outer.addWidget(heading("In it"))
        box = QWidget()
        grid = QGridLayout(box)
        grid.setContentsMargins(0, 0, 0, 0)
        rows = -(-len(TITLES) // COLUMNS)
        for place, part in enumerate(self.parts.values()):
            part.setChecked(True)
            part.toggled.connect(lambda _: self._show())
            grid.addWidget(part, place % rows, place // rows)
        outer.addWidget(box)
        outer.addWidget(flowing(self.every, self.none))
        outer.addWidget(heading("On every page"))
        outer.addWidget(self.stands)
        outer.addWidget(flowing(*self.saves))
        outer.addStretch(1)
        self.every.clicked.connect(lambda: self._turn(True))
        self.none.clicked.connect(lambda: self._turn(False))
        for button, (form, _) in zip(self.saves, FORMS, strict=True):
            button.clicked.connect(
                lambda _, form=form: ask_export(self.session, self, form, self.left_out)
            )

    @property
    def left_out(self) -> tuple[str, ...]:
        """The parts that are left out."""
        return tuple(key for key, part in self.parts.items() if not part.isChecked())

    def _turn(self, on: bool) -> None:
        for part in self.parts.values():
            part.setChecked(on)

    def _show(self) -> None:
        for button in self.saves:
            button.setEnabled(len(self.left_out) < len(self.parts))

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show what would stand on every page."""
        standing = standing_of(measured(evaluation.project.proving))
        told = "" if standing == "proven" else worded("NOT PROVEN. {}", STANDINGS[standing])
        words = " ".join(filter(None, (warning_of(evaluation), told)))
        self.stands.setText(words or in_words("Its title and its number: the rating is proven."))
        self.stands.setObjectName("bad" if words else "soft")
        self._show()
