"""Boards, and what is asked of one."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.boards import BoardsView
from tests.ui.power.test_stage import power_of


def test_what_is_asked_of_a_board_narrows_what_serves(window: Window) -> None:
    stage = power_of(window)
    boards = stage.views["board"]
    assert isinstance(boards, BoardsView)
    assert boards.about == "8 of 353 serve"
    boards.telemetry.picked.emit(True)
    told = [row.value for row in boards.table.rows_model.rows if not row.faded]
    assert told[0] == "portcullis-14-80"
    assert all(board.startswith("portcullis-14-") for board in told)
    boards.telemetry.picked.emit(False)
    boards.feeds.picked.emit(True)
    near = next(row for row in boards.table.rows_model.rows if row.value == "gate-14-60-two-port")
    assert near.faded
    assert "Feed them from the discharge port." in near.cells[1]
    boards.refused.click()
    assert not any(row.faded for row in boards.table.rows_model.rows)


def test_the_levels_stand_against_the_load_and_a_start(window: Window) -> None:
    boards = power_of(window).views["board"]
    assert isinstance(boards, BoardsView)
    drawn = boards.levels.drawn
    assert {"load", "stage-1", "stage-2"} <= set(drawn) and "surge" not in drawn
    chosen = window.session.evaluation.board
    assert chosen is not None
    _, amps = drawn["stage-1"][0].getOriginalDataset()
    assert amps[-1] == pytest.approx(chosen.board.stages[0].current_a)
    # A start is drawn once its stall current is known.
    window.session.edit({"need.stall_current_a": 90.0, "need.controller_limit_a": None})
    assert "surge" in drawn
