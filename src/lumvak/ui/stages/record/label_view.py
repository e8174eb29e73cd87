"""The label of the pack and of its charger, as they are printed."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.record_of_pack.label import gauge_said
from lumvak.core.record_of_pack.passport import passport_of
from lumvak.files.export.label import label_bytes
from lumvak.files.problem import FileProblem
from lumvak.ui.exports import ask_export
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, spoken, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import flowing, scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.quantity_field import QuantityField, try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft

WHOSE = (("label", "pack"), ("label-charger", "charger"))
FORMS = (("label", "as PDF …"), ("label-svg", "as SVG …"), ("label-png", "as PNG …"))
# The usual sizes in mm.
SIZES = ((100.0, 60.0), (80.0, 60.0), (120.0, 70.0), (60.0, 90.0))
PREVIEW_PX = 420


class LabelView(Page):
    """What is typed for the label above, the label below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.whose = ChoiceRow(WHOSE, "Label of")
        self.wide = QuantityField(session, "record.label.width_mm", width=80)
        self.tall = QuantityField(session, "record.label.height_mm", width=80)
        self.built = self._text("record.built", "2026-05-31")
        self.builder = self._text("record.builder", "")
        self.usual = [QPushButton(f"{wide:g} × {tall:g}") for wide, tall in SIZES]
        self.picture, self.problem = QLabel(), plain("")
        self.picture.setAccessibleName(in_words("The label as it is printed"))
        self.problem.setWordWrap(True)
        self.says = soft(
            "The code holds the passport of the pack: whoever reads it later gets design, limits "
            "and measured values without a network. What it claims is for them to check.",
            wrap=True,
        )
        self.gauge = soft("", wrap=True)
        self.saves = [QPushButton(words) for _, words in FORMS]
        self._shown: tuple[object, ...] = ()
        self._lay_out()

    def _text(self, path: str, example: str) -> EntryField:
        field = EntryField()
        field.setObjectName(path)
        field.setPlaceholderText(example)
        field.setFixedWidth(THEME.px(130))
        field.editingFinished.connect(
            lambda: try_edit(self.session, {path: field.text().strip() or self._empty(path)})
        )
        return field

    @staticmethod
    def _empty(path: str) -> str | None:
        return None if path == "record.built" else ""

    def _lay_out(self) -> None:
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(8))
        for field, words in ((self.built, "Built"), (self.builder, "Built by")):
            field.setAccessibleName(words)
        outer.addWidget(
            flowing(self.whose, soft("built"), self.built, soft("built by"), self.builder, gap=8)
        )
        outer.addWidget(flowing(self.wide, self.tall, *self.usual, gap=8))
        row = QHBoxLayout()
        row.addWidget(self.picture)
        row.addStretch(1)
        outer.addLayout(row)
        outer.addWidget(self.problem)
        outer.addWidget(flowing(*self.saves))
        outer.addWidget(self.gauge)
        outer.addWidget(self.says)
        outer.addStretch(1)
        self.whose.picked.connect(lambda _: self._show())
        for button, (wide, tall) in zip(self.usual, SIZES, strict=True):
            button.clicked.connect(
                lambda _, wide=wide, tall=tall: try_edit(
                    self.session, {"record.label.width_mm": wide, "record.label.height_mm": tall}
                )
            )
        for button, (form, _) in zip(self.saves, FORMS, strict=True):
            button.clicked.connect(lambda _, form=form: self._save(form))

    def _save(self, form: str) -> None:
        charger = self.whose.value == "label-charger"
        ask_export(self.session, self, form.replace("label", "label-charger") if charger else form)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Draw the label of an evaluation."""
        record = evaluation.project.record
        for field, text in ((self.built, record.built), (self.builder, record.builder)):
            if not field.hasFocus():
                field.setText(text or "")
        gauge = spoken(gauge_said(passport_of(evaluation)))
        self.gauge.setText(worded("To be set in a {}.", gauge))
        self._show()

    def _show(self) -> None:
        evaluation = self.session.evaluation
        charger = self.whose.value == "label-charger"
        given = (evaluation, charger, SPEECH.spelling, THEME.name, THEME.px(1000))
        if self._shown and self._shown[0] is evaluation and self._shown[1:] == given[1:]:
            return
        self._shown = given
        size = evaluation.project.record.label
        problem = ""
        picture = QPixmap()
        try:
            made = label_bytes(
                evaluation,
                ".png",
                (size.width_mm, size.height_mm),
                SPEECH.spelling,
                charger=charger,
            )
            picture.loadFromData(made, "PNG")
        except FileProblem as found:
            problem = str(found)
        wide = THEME.px(PREVIEW_PX)
        if not picture.isNull():
            picture = picture.scaledToWidth(
                min(wide, picture.width()), Qt.TransformationMode.SmoothTransformation
            )
        self.picture.setPixmap(picture)
        self.picture.setVisible(not problem)
        self.problem.setText(f"{problem[:1].upper()}{problem[1:]}." if problem else "")
        self.problem.setVisible(bool(problem))
