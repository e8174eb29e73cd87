"""The stage of proving, opened, its results worked out."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.core.proved import bench_pack_of
from lumvak.core.proving import proof
from lumvak.core.proving.expected import drawn_packs
from lumvak.core.proving.proof import Prepared
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.prove import prover
from lumvak.ui.stages.prove.stage import ProveStage

DRAWN = 150


def settled(qtbot: QtBot, stage: ProveStage) -> None:
    """Wait until results are there and nothing runs."""
    prover = stage.prover

    def rests() -> bool:
        idle = not prover.running and not prover.timer.isActive()
        return idle and not prover.busy and prover.results is not None

    qtbot.waitUntil(rests, timeout=60_000)


# What was worked out of the pack that windows begin with, by its evaluation.
_BEGUN: list[tuple[Evaluation, Prepared]] = []


@pytest.fixture
def prove(qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch) -> ProveStage:
    # Fewer draws than a builder gets: their bands are held elsewhere.
    monkeypatch.setattr(proof, "drawn_packs", lambda pack: drawn_packs(pack, DRAWN))
    first = window.session.evaluation

    def prepared_of(evaluation: Evaluation) -> Prepared:
        for before, made in _BEGUN:
            if before is evaluation:
                return made
        made = proof.prepared(bench_pack_of(evaluation))
        if evaluation is first:
            _BEGUN.append((evaluation, made))
        return made

    monkeypatch.setattr(prover, "bench_pack_of", lambda evaluation: evaluation)
    monkeypatch.setattr(prover, "prepared", prepared_of)
    window.open_stage("prove")
    stage = window.stages["prove"]
    assert isinstance(stage, ProveStage)
    settled(qtbot, stage)
    return stage
