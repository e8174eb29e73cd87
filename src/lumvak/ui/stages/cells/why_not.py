"""Why not this one? A cell or chemistry and counts to ask about, and the answer."""

from __future__ import annotations

from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QLineEdit, QPushButton, QWidget

from lumvak.core.catalogue.cells import FAMILY_NAMES
from lumvak.core.comparison.why_not import Answer, typical_row, why_not
from lumvak.core.evaluation import Evaluation
from lumvak.core.said import capital
from lumvak.core.sizing.ranking import MEASURES, weight_for_first, weights_of
from lumvak.core.units import COUNT, QuantityError
from lumvak.ui.session import Session
from lumvak.ui.speech import in_words, parse, round_figures, said_of, spoken, worded
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import FlowLayout
from lumvak.ui.widgets.marks import DrawnMark
from lumvak.ui.widgets.quantity_field import try_edit
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import plain, soft


def rank_words(evaluation: Evaluation, place: int) -> str:
    """Where an option ranks, what stops it, and which one weight would put it first."""
    options = evaluation.sized.options
    words = worded(" It ranks {} of {}.", place + 1, len(options))
    if place in options.stopped:
        words += worded(" As a whole it is stopped: {}.", ", ".join(options.stopped[place]))
    if place == 0 or evaluation.project.pack.ranking != "balance":
        return words
    weights = weights_of(evaluation.project.pack, evaluation.project.need.kind)
    first = weight_for_first(options.measures, weights, place)
    if not first:
        return words + in_words(" No one weight would put it first.")
    name = min(first, key=lambda key: abs(first[key] - weights[key]))
    return words + (
        worded(
            " It would rank first if {} counted {} instead of {}.",
            MEASURES[name].name,
            round_figures(first[name]),
            round_figures(weights[name]),
        )
    )


class AskRow(QWidget):
    """The question in one row; ``answer`` is a line to be placed below it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._answer: Answer | None = None
        self.cell = QComboBox()
        self.cell.setAccessibleName(in_words("Cell or chemistry to ask about"))
        self.series, self.parallel = EntryField(), EntryField()
        for edit, name in ((self.series, "In series"), (self.parallel, "In parallel")):
            edit.setAccessibleName(worded("{}, to ask about", name))
            edit.setPlaceholderText(in_words("best"))
            edit.setFixedWidth(THEME.px(48))
            edit.returnPressed.connect(self._ask)
        self.button = QPushButton("ask")
        self.button.clicked.connect(self._ask)
        flow = FlowLayout(self, 8)
        for widget in (
            self.cell,
            self.series,
            soft("in series"),
            self.parallel,
            soft("in parallel"),
            self.button,
        ):
            flow.addWidget(widget)
        self.answer = QWidget()
        self.mark = DrawnMark()
        self.answer_text = plain("")
        self.answer_text.setWordWrap(True)
        self.answer_text.setFont(THEME.font("note"))
        self.take = QPushButton("take it")
        self.take.clicked.connect(lambda: self._take(cured=True))
        self.anyway = QPushButton("take it all the same")
        self.anyway.clicked.connect(lambda: self._take(cured=False))
        line = QHBoxLayout(self.answer)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.mark)
        line.addWidget(self.answer_text, 1)
        line.addWidget(self.take)
        line.addWidget(self.anyway)
        self.answer.hide()

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Offer the cells at hand, and answer the standing question anew."""
        items = [(worded("any {}", name), family) for family, name in FAMILY_NAMES.items()]
        items += [(cell.name, cell.id) for cell in evaluation.sized.sized_pack.table.cells]
        if items != [
            (self.cell.itemText(at), self.cell.itemData(at)) for at in range(self.cell.count())
        ]:
            chosen = self.cell.currentData()
            self.cell.clear()
            for text, value in items:
                self.cell.addItem(text, value)
            self.cell.setCurrentIndex(max(0, self.cell.findData(chosen)))
        if self._answer is not None and self.answer.isVisible():
            self._ask()

    def ask(self, wanted: str, series: int | None, parallel: int | None) -> None:
        """Ask about a cell, chemistry or family; a count left open takes the best for it."""
        evaluation = self.session.evaluation
        if wanted in evaluation.sized.parts.chemistries:
            row = typical_row(evaluation.sized.sized_pack, evaluation.sized.options, wanted)
            wanted = evaluation.sized.sized_pack.table.cells[row].id if row is not None else wanted
        self.cell.setCurrentIndex(max(0, self.cell.findData(wanted)))
        self.series.setText("" if series is None else str(series))
        self.parallel.setText("" if parallel is None else str(parallel))
        self._ask()

    def _ask(self) -> None:
        evaluation = self.session.evaluation
        try:
            series, parallel = (self._count(edit) for edit in (self.series, self.parallel))
        except QuantityError as error:
            self._answer = None
            self._show("stop", said_of(error))
            return
        row = typical_row(
            evaluation.sized.sized_pack, evaluation.sized.options, str(self.cell.currentData())
        )
        if row is None:
            self._answer = None
            self._show("note", "no cell of this chemistry is in the catalogue")
            return
        answer = why_not(evaluation.sized.sized_pack, row, series, parallel)
        self._answer = answer
        if not answer.failed:
            place = evaluation.sized.options.find(*answer.pack)
            rank = "" if place is None else rank_words(evaluation, place)
            self._show("fine", f"{spoken(answer.text)}.{rank}", "take it")
            return
        take = ""
        if answer.cure is not None:
            take = worded("take {}S{}P", answer.cure[1], answer.cure[2])
        self._show("stop", f"{spoken(answer.text)}. {spoken(capital(answer.change))}.", take)

    @staticmethod
    def _count(edit: QLineEdit) -> int | None:
        text = edit.text().strip()
        if not text:
            return None
        count = int(parse(text, COUNT))
        if not 1 <= count <= 300:
            raise QuantityError(
                worded("{} was given; accepted: 1 to 300, or nothing for the best", count)
            )
        return count

    def _show(self, severity: str, text: str, take: str = "") -> None:
        self.mark.show_severity(severity)
        self.answer_text.setText(text)
        self.take.setText(take)
        self.take.setVisible(bool(take))
        self.anyway.setVisible(self._answer is not None and bool(self._answer.failed))
        self.answer.setVisible(True)

    def _take(self, cured: bool) -> None:
        if self._answer is None:
            return
        cure = self._answer.cure if cured else None
        cell, series, parallel = cure or self._answer.pack
        try_edit(
            self.session,
            {"pack.cell": cell, "pack.series": series, "pack.parallel": parallel},
        )
