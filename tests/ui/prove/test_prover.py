"""Results are worked out beside the window, once, and anew where something changed."""

from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.prove.stage import ProveStage
from tests.proofs import reading
from tests.ui.prove.conftest import settled


def test_the_draws_stay_while_only_readings_change(
    qtbot: QtBot, window: Window, session: Session, prove: ProveStage
) -> None:
    first = prove.prover.results
    assert first is not None
    prove.show_evaluation(session.evaluation)
    assert not prove.prover.busy
    for group in range(1, 4):
        prove.prover.keep(reading("groups", 3.7, f"group:{group}"))
    settled(qtbot, prove)
    second = prove.prover.results
    assert second is not None and second is not first and second.ready is first.ready
    assert second.proof.of("groups").verdict == "inside"
    session.edit({"leads.length_m": 2.0})
    settled(qtbot, prove)
    third = prove.prover.results
    assert third is not None and third.ready is not first.ready
    # What is outside is found in the margin and on the build line, and stays after other edits.
    prove.prover.keep(reading("insulation", 12.0, "case"))
    settled(qtbot, prove)
    assert [it.code for it in session.beside] == ["proof-insulation.case_v"]
    marks = {it.key: it.severity for it in window.build_line.entries}
    assert marks["prove"] == "stop"
    session.edit({"name": "another"})
    assert [it.code for it in session.beside] == ["proof-insulation.case_v"]
    path = "staircase.path_mohm"
    assert third.ready.expected[path].value > first.ready.expected[path].value
