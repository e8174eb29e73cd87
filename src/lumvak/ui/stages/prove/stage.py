"""Stage: prove. The tests and how they stand, the bench, and the pack as designed and as proven."""

from __future__ import annotations

from lumvak.ui.session import Session
from lumvak.ui.stages.prove.answer import VIEWS
from lumvak.ui.stages.prove.prover import Prover
from lumvak.ui.widgets.pages import Page, StageOfViews

TITLES = {
    "tests": "Does it do what it was designed for?",
    "bench": "Which instruments are on the bench?",
    "proven": "What is it, now that it was measured?",
}


class ProveStage(StageOfViews):
    """One of the views of proving; all of them look at one set of results."""

    titles = TITLES

    def __init__(self, session: Session) -> None:
        self.prover = Prover(session)
        makers = {"tests": self._tests, "bench": self._bench, "proven": self._proven}
        super().__init__(session, VIEWS, "View of proving", makers)
        self.prover.to_bench.connect(lambda: self.show_view("bench"))
        self.destroyed.connect(self.prover.end)

    def _tests(self, session: Session) -> Page:
        from lumvak.ui.stages.prove.plan_view import PlanView

        return PlanView(session, self.prover)

    def _bench(self, session: Session) -> Page:
        from lumvak.ui.stages.prove.bench_view import BenchView

        return BenchView(session, self.prover)

    def _proven(self, session: Session) -> Page:
        from lumvak.ui.stages.prove.proven_view import ProvenView

        return ProvenView(session, self.prover)
