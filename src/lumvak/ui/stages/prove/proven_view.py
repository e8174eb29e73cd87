"""The pack as designed and as proven: what moved, how sure it is, and what that is due to."""

from __future__ import annotations

from PyQt6.QtWidgets import QVBoxLayout

from lumvak.core.evaluation import Evaluation
from lumvak.core.proving.correction import PARAMETERS, Corrected, Proven
from lumvak.core.proving.proof import STANDINGS, PackProof
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, say, worded
from lumvak.ui.stages.prove.moved_chart import Moved, MovedChart
from lumvak.ui.stages.prove.prover import Prover
from lumvak.ui.widgets.flow import scrolled_body
from lumvak.ui.widgets.pages import Page
from lumvak.ui.widgets.rows import Column, row_of
from lumvak.ui.widgets.tables import RowsTable, fit_height
from lumvak.ui.widgets.theme import THEME
from lumvak.ui.widgets.words import heading, plain, soft

# Less than this of its spread is no move.
MOVED = 1.0


def _plus_minus(value: float, sigma: float, unit: str) -> str:
    return f"{say(value, unit)} ± {say(sigma, unit)}"


def _moved(item: Corrected) -> str:
    share = item.after / item.before - 1.0
    return f"{share:+.1%}".replace("-", "−") if item.sigma_after < 0.98 * item.sigma_before else ""


COLUMNS = (
    Column(
        "parameter",
        lambda it: it.label,
        left=True,
        stretch=True,
        tip="What the run time and the rating hang on",
    ),
    Column(
        "as designed",
        lambda it: _plus_minus(it.before, it.sigma_before, it.unit),
        sample="1.36 K/W ± 0.271 K/W",
        tip="With one standard deviation",
    ),
    Column(
        "as proven",
        tip="By what was measured; with one standard deviation",
        text=lambda it: _plus_minus(it.after, it.sigma_after, it.unit),
        sample="1.36 K/W ± 0.271 K/W",
        mark=lambda it: "verdigris" if it.sigma_after < 0.5 * it.sigma_before else "",
    ),
    Column(
        "moved by",
        _moved,
        tip="Against the design; amber is more than the design left open",
        sample="−12.5%",
        mark=lambda it: "amber" if abs(it.after - it.before) > 2.0 * it.sigma_before else "",
    ),
)


class ProvenView(Page):
    """Rating and run time side by side, then the parameters that they hang on."""

    def __init__(self, session: Session, prover: Prover) -> None:
        super().__init__(session)
        self.prover = prover
        self.standing, self.due = heading(""), plain("")
        self.due.setWordWrap(True)
        self.chart = MovedChart()
        self.table = RowsTable(COLUMNS, "Parameters as designed and as proven")
        self.waits = soft("Drawing packs as they may be built…")
        self.meaning = soft(
            "Bands hold nine in ten: they come from how far built packs are from their design, and "
            "narrow by what was measured. New cells, from full, at the continuous current.",
            wrap=True,
        )
        outer = QVBoxLayout(scrolled_body(self))
        outer.setContentsMargins(THEME.px(24), 0, THEME.px(12), THEME.px(6))
        outer.setSpacing(THEME.px(10))
        for widget in (self.waits, self.standing, self.chart, self.due, self.table, self.meaning):
            outer.addWidget(widget)
        outer.addStretch(1)
        self.table.picked.connect(lambda name: self.session.explain(f"proven.{name}"))
        prover.changed.connect(self._show)

    def show_evaluation(self, evaluation: Evaluation) -> None:
        """Have results worked out for an evaluation; show what there is."""
        self.prover.follow(evaluation)
        self._show()

    def _show(self) -> None:
        results = self.prover.results
        self.waits.setVisible(self.prover.busy or results is None)
        if results is None:
            return
        proof = results.proof
        self.standing.setText(STANDINGS[proof.standing])
        self.chart.show_moved(
            (
                _of("continuous", "A", proof.continuous_before, proof.continuous),
                _of("run time", "h", proof.hours_before, proof.hours),
            )
        )
        self.due.setText(due_to(proof))
        self.table.show_rows(
            [row_of(COLUMNS, item, value=item.name, key=item.name) for item in proof.parameters]
        )
        fit_height(self.table, len(PARAMETERS), len(PARAMETERS), firm=True)


def _of(name: str, unit: str, before: Proven, after: Proven) -> Moved:
    return Moved(name, unit, before, after)


def due_to(proof: PackProof) -> str:
    """What the difference between design and proof is due to."""
    moved = [
        item
        for item in proof.parameters
        if abs(item.after - item.before) > MOVED * item.sigma_before
    ]
    if not proof.found.used:
        return in_words(
            "Nothing was measured yet: the plan under “tests” says what would settle most."
        )
    if not moved:
        return in_words("Everything lies within one standard deviation of the design.")
    words = [
        worded(
            "{} {} than designed ({} instead of {})",
            in_words(item.label) if SPEECH.sentences else item.label.lower(),
            "more" if item.after > item.before else "less",
            say(item.after, item.unit),
            say(item.before, item.unit),
        )
        for item in moved
    ]
    return worded("The difference is due to: {}.", "; ".join(words))
