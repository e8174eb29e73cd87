"""A person at the bench: keys alone, one step after the other."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.evaluation import steps_in_hand
from lumvak.core.spelling import spoken
from lumvak.ui.bench_mode import LARGE, BenchMode, BenchStep
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.joints.stage import JointsStage

ENTER, BACK, AWAY = Qt.Key.Key_Return, Qt.Key.Key_Backspace, Qt.Key.Key_Escape


@pytest.fixture
def kept() -> list[tuple[int, str]]:
    return []


@pytest.fixture
def mode(qtbot: QtBot, session: Session, kept: list[tuple[int, str]]) -> BenchMode:
    def taker(place: int, text: str) -> str:
        if not text.replace(".", "").isdigit():
            return f"“{text}” is no number of volts"
        kept.append((place, text))
        return ""

    made = BenchMode(
        session,
        "Readings",
        [
            BenchStep(
                f"tap {place}",
                "Hold the meter here",
                "all else",
                "3.7 V",
                take=lambda text, place=place: taker(place, text),
            )
            for place in (1, 2, 3)
        ],
    )
    qtbot.addWidget(made)
    made.resize(1920, 1080)
    made.show()
    qtbot.waitExposed(made)
    return made


def test_readings_are_kept_one_after_the_other(
    qtbot: QtBot, session: Session, mode: BenchMode, kept: list[tuple[int, str]]
) -> None:
    assert mode.count.text() == "step 1 of 3"
    qtbot.keyClicks(mode.entry, "3.71")
    qtbot.keyClick(mode.entry, ENTER)
    assert kept == [(1, "3.71")]
    assert (mode.count.text(), mode.reading.text()) == ("step 2 of 3", "last: 3.71")
    qtbot.keyClicks(mode.entry, "abc")
    qtbot.keyClick(mode.entry, ENTER)
    assert mode.at == 1
    assert "no number" in mode.problem.text()
    # It is selected, so that the next reading does not run into it.
    assert mode.entry.selectedText() == "abc"
    # On a field that is not empty Backspace is the field's own.
    qtbot.keyClick(mode.entry, BACK)
    assert mode.at == 1
    qtbot.keyClick(mode.entry, BACK)
    assert mode.at == 0
    assert len(kept) == 1
    for text in ("3.70", "3.69", "3.68"):
        qtbot.keyClicks(mode.entry, text)
        qtbot.keyClick(mode.entry, ENTER)
    assert kept[1:] == [(1, "3.70"), (2, "3.69"), (3, "3.68")]
    # The next one that is typed goes nowhere, until the window is asked for.
    assert (mode.place.text(), mode.count.text()) == ("done", "")
    qtbot.keyClicks(mode, "3.67")
    qtbot.keyClick(mode, ENTER)
    assert mode.isVisible() and len(kept) == 4
    with qtbot.waitSignal(session.bench_left):
        qtbot.keyClick(mode, AWAY)
    assert not mode.isVisible()


def test_what_is_typed_is_read_at_arms_length(qtbot: QtBot, mode: BenchMode) -> None:
    # 30 mm on a screen of 24 inches is a tenth of its 299 mm.
    for high in (1080, 800):
        mode.resize(1600, high)
        QApplication.processEvents()
        assert mode.entry.font().pixelSize() == round(LARGE * high)
        assert mode.place.font().pixelSize() == round(LARGE * high)
        assert mode.entry.height() >= LARGE * high
    qtbot.keyClick(mode.entry, AWAY)
    assert not mode.isVisible()


def test_the_order_of_work_is_led_through_by_keys(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    qtbot.keyClick(window, Qt.Key.Key_F9)
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    mode = stage.making.bench
    evaluation = window.session.evaluation
    steps = steps_in_hand(evaluation)
    assert mode is not None
    assert len(mode.steps) == len(steps)
    for step in steps[:-1]:
        assert spoken(step.text) in mode.what.text()
        assert spoken(step.cover) in mode.cover.text()
        drawn = mode.views[0].drawn
        assert drawn is not None
        assert step.face in (-1, drawn.side)
        assert drawn.marked == step.now
        qtbot.keyClick(mode, ENTER)
    assert mode.count.text() == f"step {len(steps)} of {len(steps)}"
    qtbot.keyClick(mode, ENTER)
    qtbot.keyClick(mode, AWAY)
    assert not mode.isVisible()
    # Nothing is typed here: keys that are meant for the bench do nothing in the window.
    assert window.build_line.hasFocus() or window.build_line.focusProxy().hasFocus()
    window.open_stage("need")
    qtbot.keyClick(window, Qt.Key.Key_F9)
    assert "no steps at the bench" in window.notice.text.text()
