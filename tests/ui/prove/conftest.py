"""The stage of proving, opened, its results worked out."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.core.proving import proof
from lumvak.core.proving.expected import drawn_packs
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.prove.stage import ProveStage

DRAWN = 150


def settled(qtbot: QtBot, stage: ProveStage) -> None:
    """Wait until results are there and nothing runs."""
    prover = stage.prover

    def rests() -> bool:
        idle = not prover.running and not prover.timer.isActive()
        return idle and not prover.busy and prover.results is not None

    qtbot.waitUntil(rests, timeout=60_000)


@pytest.fixture
def prove(qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch) -> ProveStage:
    # Fewer draws than a builder gets: their bands are held elsewhere.
    monkeypatch.setattr(proof, "drawn_packs", lambda pack: drawn_packs(pack, DRAWN))
    window.open_stage("prove")
    stage = window.stages["prove"]
    assert isinstance(stage, ProveStage)
    settled(qtbot, stage)
    return stage
