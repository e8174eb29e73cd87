"""An old tool given a new pack: the work as one thread, and both packs side by side."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, walk
from lumvak.core.record_of_pack.conversion import is_conversion, rows_of, thread_of
from lumvak.ui.session import Session
from lumvak.ui.speech import say, say_hours, spoken
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, soft

WAITS = (
    "For a cordless tool whose nickel pack is dead: say in Need that it is one, and how many "
    "nickel cells the old pack has."
)
CAUTION = (
    "Open an old pack discharged, with insulated tools; cadmium goes to where batteries are "
    "recycled. The old charger is never plugged into the new pack."
)
ROLES = {"done": "verdigris", "to do": "amber", "stop": "crimson"}
THREAD = (
    Column("step", lambda it: it.what, left=True, sample="room in the housing", tip="In order"),
    Column(
        "stands",
        lambda it: it.standing,
        left=True,
        sample="to do",
        mark=lambda it: ROLES[it.standing],
        tip="Done, to do, or something stops it",
    ),
    Column(
        "so far",
        lambda it: spoken(it.answer),
        left=True,
        stretch=True,
        wraps=True,
        tip="A click goes to the stage where it is done",
    ),
)


def _said(figure: Figure | None) -> str:
    if figure is None:
        return "—"
    if figure.unit == "h":
        return say_hours(figure.number)
    return say(figure.number, figure.unit)


def _ratio(row: object) -> str:
    ratio = getattr(row, "ratio", None)
    return "" if ratio is None else f"× {ratio.number:.2f}"


ROWS = (
    Column("measure", lambda it: it.what, left=True, stretch=True, tip="Of the pack"),
    Column("old", lambda it: _said(it.old), sample="00 h 00 0", tip="The old pack, where known"),
    Column("new", lambda it: _said(it.new), sample="00 h 00 0", tip="This pack"),
    Column("new over old", _ratio, sample="× 00.00", tip="Over one is more; a click explains it"),
)


class ConversionView(Page):
    """The thread above, both packs below."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.waits, self.caution = soft(WAITS, wrap=True), soft(CAUTION, wrap=True)
        self.caution.setObjectName("caution")
        self.steps = RowsTable(THREAD, "Steps of the conversion")
        self.steps.whole = True
        self.rows = RowsTable(ROWS, "Old pack and new")
        self.heads = (heading("The work as one thread"), heading("The old pack and the new one"))
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(7))
        for widget in (self.waits, self.heads[0], self.steps, self.heads[1], self.rows):
            outer.addWidget(widget)
        outer.addWidget(self.caution)
        outer.addStretch(1)
        self.steps.picked.connect(lambda stage: session.wanted.emit(stage.partition(":")[0]))
        self.rows.picked.connect(session.explain)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Show how the conversion of an evaluation stands."""
        may = is_conversion(evaluation)
        self.waits.setVisible(not may)
        self.steps.setVisible(may)
        self.rows.setVisible(may)
        self.caution.setVisible(may)
        for head in self.heads:
            head.setVisible(may)
        if not may:
            return
        steps, rows = thread_of(evaluation), rows_of(evaluation)
        made = [it for row in rows for it in (row.old, row.ratio) if it is not None]
        self.session.add_figures(walk(made), self.session.revision)
        self.steps.show_rows(
            [
                row_of(THREAD, it, value=f"{it.stage}:{at}", key=f"{it.stage}:{at}")
                for at, it in enumerate(steps)
            ]
        )
        shown = []
        for at, row in enumerate(rows):
            explains = row.ratio or row.new or row.old
            key = "" if explains is None else explains.key
            shown.append(row_of(ROWS, row, value=key, key=f"{key}:{at}"))
        self.rows.show_rows(shown)
        fit_height(self.rows, len(rows), len(rows), firm=True)
