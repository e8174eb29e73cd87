"""The build line holds twelve stages and more, in parts, at every height."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import Evaluation
from lumvak.ui.shell.build_line import CLOSE, NAMES, ROOMY, STRIP, BuildLine, laid_out
from lumvak.ui.stages.order import STAGES, Stage
from lumvak.ui.widgets.theme import THEME

PARTS = ("on paper", "at the bench", "afterwards")
TWELVE = tuple(
    replace(
        STAGES[1 + place % 6], key=f"stage{place}", name=f"Stage {place}", part=PARTS[place // 5]
    )
    for place in range(13)
)


def px(length: float) -> float:
    return length


def line_of(
    qtbot: QtBot, evaluation: Evaluation, stages: tuple[Stage, ...], high: int
) -> BuildLine:
    line = BuildLine(stages)
    qtbot.addWidget(line)
    line.resize(THEME.px(190), high)
    line.show_evaluation(evaluation, stages[0].key)
    return line


def test_thirteen_stages_show_their_answers_at_800_px() -> None:
    parts = [stage.part for stage in TWELVE]
    # What 800 px leave between the title and the open path.
    laid = laid_out(parts, 640, 3, px)
    assert laid.answers
    assert laid.height <= 640
    assert [part for part, _ in laid.headings] == list(PARTS)
    assert {high for _, high in laid.entries} == {CLOSE[0]}
    assert {high for _, high in laid_out(parts, 2000, 3, px).entries} == {ROOMY[0]}


def test_the_answers_go_before_the_names_and_the_open_one_keeps_its() -> None:
    laid = laid_out([stage.part for stage in TWELVE], 420, 3, px)
    assert not laid.answers
    assert [high for _, high in laid.entries].count(NAMES[0]) == 12
    assert laid.entries[3][1] == CLOSE[0]


@given(st.lists(st.sampled_from(PARTS), min_size=1, max_size=24), st.floats(50, 2000), st.data())
def test_entries_and_headings_never_lie_over_each_other(
    parts: list[str], room: float, data: st.DataObject
) -> None:
    parts = sorted(parts, key=PARTS.index)
    current = data.draw(st.integers(0, len(parts) - 1))
    laid = laid_out(parts, room, current, px)
    boxes = sorted([*laid.entries, *((top, 21.0) for _, top in laid.headings)])
    for (one, high), (two, _) in pairwise(boxes):
        assert one + high <= two
    assert len(laid.entries) == len(parts)


@pytest.mark.parametrize("high", [180, 260, 400])
def test_the_open_stage_is_in_view_and_what_is_beyond_is_counted(
    qtbot: QtBot, evaluation: Evaluation, high: int
) -> None:
    line = line_of(qtbot, evaluation, TWELVE, high)
    for place, stage in enumerate(TWELVE):
        line.show_evaluation(evaluation, stage.key)
        rect = line.rects()[place]
        assert rect.top() >= 0
        assert rect.bottom() <= high
        above, below = line.beyond()
        assert above + below + sum(
            box.top() >= 0 and box.bottom() <= high for box in line.rects()
        ) >= len(TWELVE)
        assert (above > 0) == (line.rects()[0].top() < 0)
    line.show_evaluation(evaluation, TWELVE[0].key)
    before = line.rects()[0].top()
    spot = QPointF(20, 40)
    turn = QWheelEvent(
        spot,
        line.mapToGlobal(spot),
        QPoint(),
        QPoint(0, -240),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(line, turn)
    assert line.rects()[0].top() < before


def test_a_stage_that_does_not_apply_is_not_shown_as_undone(
    qtbot: QtBot, evaluation: Evaluation
) -> None:
    bought = replace(STAGES[1], applies=lambda _: False)
    line = line_of(qtbot, evaluation, (bought, *STAGES[2:]), 600)
    assert (line.entries[0].severity, line.entries[0].answer) == ("none", "not for this")
    assert line.entries[1].severity != "none"


def test_folded_it_is_a_strip_of_marks_that_still_opens_stages(
    qtbot: QtBot, evaluation: Evaluation
) -> None:
    line = line_of(qtbot, evaluation, TWELVE, 640)
    line.fold(True)
    assert line.width() == THEME.px(STRIP)
    opened: list[str] = []
    line.opened.connect(opened.append)
    qtbot.mouseClick(line.buttons[7], Qt.MouseButton.LeftButton)
    qtbot.keyClick(line.buttons[0], Qt.Key.Key_Down)
    assert opened == ["stage7", "stage1"]
    # What is open is what the window has opened, whatever was asked for.
    assert [button.isChecked() for button in line.buttons].index(True) == 0
    line.fold(False)
    assert line.maximumWidth() > THEME.px(STRIP)


def test_a_stage_of_which_nothing_is_there_yet_is_not_fine(
    qtbot: QtBot, evaluation: Evaluation
) -> None:
    empty = [replace(stage, begun=lambda _: False) for stage in STAGES]
    marks = [item.severity for item in line_of(qtbot, evaluation, empty, 600).entries]
    assert "fine" not in marks
    assert "to do" in marks
    real = line_of(qtbot, evaluation, STAGES, 600)
    assert {item.key: item.severity for item in real.entries}["hand"] == "to do"
