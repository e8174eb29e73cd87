"""What all views of proving share: results worked out beside the window, and a plan that runs."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from lumvak.core.document.proving import ProofReading, Proving, TestName
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import walk
from lumvak.core.proved import bench_pack_of, limits_of
from lumvak.core.proving.figures import proof_figures
from lumvak.core.proving.findings import proof_findings
from lumvak.core.proving.plan import Planned, plan_of
from lumvak.core.proving.proof import PackProof, Prepared, prepared, proof_of
from lumvak.ui.session import Session
from lumvak.ui.speech import worded
from lumvak.ui.stages.prove.runner import BenchSource, Runner
from lumvak.ui.work import Report, Work

# Readings that have come are kept and shown so often, in ms.
OFTEN_MS = 150
# Results are worked out once nothing was read for so long, in ms.
RESTS_MS = 250


class Results(Struct, frozen=True, eq=False):
    """Everything that was worked out for one state of the project."""

    ready: Prepared
    proof: PackProof
    plan: tuple[Planned, ...]


class Prover(QObject):
    """Works results out off the window's thread, and keeps what is read while a plan runs.

    ``changed`` tells of new results, ``to_bench`` that the tests ``wanted`` are to be run, ``ran``
    of the plan that runs: how far it is, or that it ended; ``read`` carries readings that have just
    been kept.
    """

    changed = pyqtSignal()
    to_bench = pyqtSignal()
    ran = pyqtSignal()
    read = pyqtSignal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.results: Results | None = None
        self.problem = ""
        self.wanted: tuple[TestName, ...] = ("insulation", "asleep", "groups", "total")
        self.runner: Runner | None = None
        self._given: tuple[object, ...] = ()
        self._proving: Proving | None = None
        self._ready: Prepared | None = None
        self.rests = QTimer(self)
        self.rests.setSingleShot(True)
        self.rests.setInterval(RESTS_MS)
        self.rests.timeout.connect(self._begin)
        session.changed.connect(self._remember)
        self.work = Work()
        self.work.done.connect(self._take)
        self.work.failed.connect(self._failed)
        self.timer = QTimer(self)
        self.timer.setInterval(OFTEN_MS)
        self.timer.timeout.connect(self._drain)

    @property
    def busy(self) -> bool:
        """Whether results are being worked out, or about to be."""
        return self.work.busy or self.rests.isActive()

    @property
    def running(self) -> bool:
        """Whether a plan runs."""
        return self.runner is not None and not self.runner.ended

    def follow(self, evaluation: Evaluation) -> None:
        """Work results out anew where what they hang on has changed; not while a plan runs."""
        if self.running:
            return
        given, proving = self._given_of(evaluation), evaluation.project.proving
        same = self._same(given)
        if same and proving is self._proving:
            self.tell_figures()
            return
        if not same:
            self._ready = None
        self._given, self._proving = given, proving
        self.problem = ""
        # Readings may come one after the other: results are worked out once they rest.
        self.work.cancel()
        self.rests.start()

    def _remember(self) -> None:
        """Tell of what was found once more, where another edit left it as it was."""
        evaluation = self.session.evaluation
        given, proving = self._given_of(evaluation), evaluation.project.proving
        if not self.busy and proving is self._proving and self._same(given):
            self.tell_figures()

    def _same(self, given: tuple[object, ...]) -> bool:
        return len(self._given) == len(given) and all(
            one is other for one, other in zip(self._given, given, strict=True)
        )

    @staticmethod
    def _given_of(evaluation: Evaluation) -> tuple[object, ...]:
        """What the results hang on beside the readings."""
        sized, laid_out = evaluation.sized, evaluation.laid_out
        return (
            *(sized.sized_pack, sized.pack, sized.wire, sized.in_hand, sized.demand),
            *(laid_out.series, laid_out.joined_pack, evaluation.run, evaluation.power),
            *(evaluation.charging, evaluation.path.links, evaluation.project.run),
        )

    def _begin(self) -> None:
        evaluation, ready = self.session.evaluation, self._ready
        proving = evaluation.project.proving

        def task(report: Report) -> object:
            made = prepared(bench_pack_of(evaluation)) if ready is None else ready
            limits = limits_of(evaluation)
            if not report(0.5):
                return None
            proof = proof_of(made, proving, limits)
            if not report(0.7):
                return None
            return Results(made, proof, plan_of(made, proving, proving.at_hand))

        self.work.start(task, None)

    def _take(self, results: object, _: object) -> None:
        if isinstance(results, Results):
            self.results, self._ready = results, results.ready
            self.tell_figures()
            self.changed.emit()

    def tell_figures(self) -> None:
        """Have the figures of the results at hand for the margin; each evaluation forgets them."""
        if self.results is not None:
            figures = walk(proof_figures(self.results.proof))
            self.session.add_figures(figures, self.session.revision)
            self.session.add_findings(
                proof_findings(self.results.proof), self.session.revision, "prove"
            )

    def _failed(self, problem: str) -> None:
        self.problem = problem
        self.changed.emit()

    # A plan that runs.

    def start(self, source: BenchSource, tests: Sequence[TestName]) -> None:
        """Run tests at a bench; readings are kept as they come."""
        if self.running or self.results is None:
            return
        readings = self.session.project.proving.readings
        self.runner = Runner(self.results.ready.pack, source, tests, readings)
        self.runner.start()
        self.timer.start()
        self.ran.emit()

    def _drain(self) -> None:
        """Keep what was read since, then show it."""
        runner = self.runner
        if runner is None:
            return
        runner.beat()
        fresh = runner.take()
        if fresh:
            kept = self.session.project.proving.readings
            name = fresh[-1].test
            self.session.edit(
                {"proving.readings": (*kept, *fresh)}, worded("readings: {}", name), merges=True
            )
            self.session.keep_now()
            self.read.emit(fresh)
        if runner.ended and not runner.waiting:
            self.timer.stop()
            self.follow(self.session.evaluation)
        self.ran.emit()

    def keep(self, reading: ProofReading) -> None:
        """Keep one reading that was typed."""
        kept = self.session.project.proving.readings
        self.session.edit(
            {"proving.readings": (*kept, reading)}, worded("readings: {}", reading.test)
        )
        self.session.keep_now()

    def end(self) -> None:
        """The window goes: everything off."""
        self.rests.stop()
        self.timer.stop()
        if self.runner is not None:
            self.runner.stop()
            self.runner.join()
        self.work.end()
