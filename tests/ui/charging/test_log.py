"""The log: typed by keys alone, kept at once, compared, brought in, at the bench."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.core.charging_in_hand import charge_in_hand
from lumvak.core.document.edit import with_values
from lumvak.core.units import QuantityError
from lumvak.files.logs.charge_log import log_csv
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.charging.log import LogView, reading_of
from tests.ui.charging.conftest import Opener, even


@pytest.fixture
def view(open_view: Opener, session: Session) -> LogView:
    even(session)
    page = open_view("log")
    assert isinstance(page, LogView)
    return page


def type_in(view: LogView, qtbot: QtBot, text: str) -> None:
    view.entry.setFocus()
    qtbot.keyClicks(view.entry, text)
    qtbot.keyClick(view.entry, Qt.Key.Key_Return)


def test_the_plan_stands_above_and_says_what_to_watch(view: LogView) -> None:
    assert [row.cells[0] for row in view.plan_table.rows_model.rows] == [
        "before",
        "slowly",
        "as usual",
        "taper",
        "rest",
    ]
    assert "Every group must rise" in view.stage_says.text()
    view.plan_table.picked.emit("usual")
    assert "volts that fall" in view.stage_says.text()


def test_readings_take_their_time_from_the_clock_and_are_kept_at_once(
    view: LogView, session: Session, qtbot: QtBot, window: Window
) -> None:
    now = [1000.0]
    view.clock = lambda: now[0]
    assert "No reading yet" in view.says.text()
    type_in(view, qtbot, "50.5 0 18")
    now[0] += 300.0
    type_in(view, qtbot, "50.9 3.3")
    now[0] += 300.0
    type_in(view, qtbot, "51.1")
    rows = session.project.charging.log.rows
    assert [row.seconds for row in rows] == [0.0, 300.0, 600.0]
    assert [row.amps for row in rows] == [0.0, 3.3, None]
    assert session.project.charging.log.start
    assert "51.1" in session.recovery.path.read_text("utf-8")
    # (0 + 3.3) / 2 for 5 min, then 3.3 A for 5 min.
    assert "0.412 Ah" in view.says.text()
    assert len(view.table.rows_model.rows) == 3
    type_in(view, qtbot, "x")
    assert "is not a voltage" in view.problem.text()
    assert len(session.project.charging.log.rows) == 3
    view.entry.clear()
    view.buttons["forget the last"].click()
    assert len(session.project.charging.log.rows) == 2
    view.buttons["begin anew"].click()
    assert session.project.charging.log.rows == ()
    session.undo_stack.undo()
    assert len(session.project.charging.log.rows) == 2


def test_the_clock_of_a_log_ends_with_its_project(
    view: LogView, session: Session, qtbot: QtBot, open_view: Opener
) -> None:
    """A reading of the next project, a day later, goes on where that one's own log was."""
    now = [1000.0]
    view.clock = lambda: now[0]
    type_in(view, qtbot, "50.5 0 18")
    rows = ({"seconds": 0.0, "volts": 50.1}, {"seconds": 300.0, "volts": 50.4})
    other = with_values(session.project, {"charging.log.rows": rows})
    session.start(other, None)
    now[0] += 90_000.0
    fresh = open_view("log")
    assert isinstance(fresh, LogView) and fresh is not view
    view, fresh.clock = fresh, view.clock
    type_in(view, qtbot, "50.9")
    type_in(view, qtbot, "51.0")
    assert [row.seconds for row in session.project.charging.log.rows] == [0.0, 300.0, 360.0, 361.0]


def test_a_clock_that_jumps_is_told_and_the_reading_kept(
    view: LogView, session: Session, qtbot: QtBot, window: Window
) -> None:
    now = [1000.0]
    view.clock = lambda: now[0]
    type_in(view, qtbot, "50.5 0 18")
    now[0] += 300.0
    type_in(view, qtbot, "50.6")
    assert not window.notice.isVisible()
    for jump in (2e7, -3e7, -600.0):
        now[0] += jump
        type_in(view, qtbot, "50.7")
        assert "clock jumped" in window.notice.text.text() and window.notice.isVisible()
        assert view.problem.isHidden()
        window.notice.hide()
        now[0] += 30.0
        type_in(view, qtbot, "50.8")
        assert not window.notice.isVisible()
    rows = session.project.charging.log.rows
    assert [row.seconds for row in rows] == [0.0, 300.0, 360.0, 390.0, 450.0, 480.0, 540.0, 570.0]


def test_nobody_sets_the_clock_of_a_log(view: LogView, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("time.time", lambda: 1e12)
    before = view.clock()
    assert 0.0 <= view.clock() - before < 10.0


def test_a_reading_out_of_its_band_is_said(view: LogView, session: Session) -> None:
    run = charge_in_hand(session.evaluation)
    rows = [
        {
            "seconds": float(run.seconds[place]),
            "volts": float(run.volts[place]),
            "amps": float(run.amps[place]),
        }
        for place in range(0, 90, 10)
    ]
    session.edit({"charging.log.rows": tuple(rows)})
    assert "over the band" not in view.says.text()
    rows[5]["volts"] += 3.0
    session.edit({"charging.log.rows": tuple(rows)})
    assert "At reading 6" in view.says.text()
    assert "more resistance" in view.says.text()
    hours, volts = view.read.getData()
    assert len(hours) == len(volts) == 9


def test_a_log_is_brought_in_whole_or_not_at_all(
    view: LogView,
    session: Session,
    window: Window,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    path = tmp_path / "charge.csv"
    path.write_text("time min,volts,amps\n0,50.2,4\n5,50.9,4\n10,51.2,4\n", "utf-8")
    view.bring_in(path)
    rows = session.project.charging.log.rows
    assert [row.seconds for row in rows] == [0.0, 300.0, 600.0]
    path.write_text("time min,volts,amps\n0,50.2,4\n5,50.9,4\n3,51.2,4\n", "utf-8")
    view.bring_in(path)
    assert session.project.charging.log.rows == rows
    assert "time runs backwards" in window.notice.text.text()
    out = tmp_path / "out.csv"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    view.buttons["export as CSV …"].click()
    assert out.read_bytes() == log_csv(rows).encode()
    session.edit({"charging.log.wall_wh": 50.0})
    assert "of what the mains gave" in view.says.text()


def test_at_the_bench_enter_keeps_and_goes_on(
    view: LogView, session: Session, qtbot: QtBot
) -> None:
    assert view.begin_bench()
    bench = view.bench
    assert bench is not None
    qtbot.addWidget(bench)
    assert "slowly" in bench.place.text()
    bench.entry.setFocus()
    qtbot.keyClicks(bench.entry, "50.5 3.3 18")
    qtbot.keyClick(bench.entry, Qt.Key.Key_Return)
    assert session.project.charging.log.rows[-1].volts == 50.5
    assert bench.at == 1
    qtbot.keyClick(bench, Qt.Key.Key_Escape)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "is no reading"),
        ("1 2 3 4", "is no reading"),
        ("x", "is not a voltage"),
        ("50 x", "is not a current"),
        ("50 2 25; 4.1 4.2", "accepted: all 14"),
        ("-5", "accepted: over 0"),
    ],
)
def test_what_is_no_reading_is_named(text: str, says: str) -> None:
    with pytest.raises(QuantityError, match=says):
        reading_of(text, 0.0, 14)


def test_groups_go_after_a_semicolon() -> None:
    found = reading_of("8.2 2 25; 4.1 4.1", 12.34, 2)
    assert found.groups == (4.1, 4.1)
    assert found.seconds == 12.3


def test_a_long_log_is_shown_as_a_line_and_its_plan_is_not_asked_for_again(
    view: LogView, session: Session, qtbot: QtBot
) -> None:
    rows = [{"seconds": float(at), "volts": 50.0 + at / 1000.0} for at in range(3000)]
    session.edit({"charging.log.rows": tuple(rows)})
    qtbot.waitUntil(lambda: not view.simulated.busy, timeout=20_000)
    assert view.read.opts["symbol"] is None
    assert len(view.table.rows_model.rows) == 3000
    # The last stands first.
    assert view.table.rows_model.rows[0].cells[:2] == ("0:49:59", "53.00 V")
    assert view.table.rows_model.rows[2999].cells[:2] == ("0:00:00", "50.00 V")
    type_in(view, qtbot, "53.1 2")
    assert len(session.project.charging.log.rows) == 3001
    assert not view.simulated.busy
    session.edit({"charging.log.rows": tuple(rows[:100])})
    assert view.read.opts["symbol"] == "o"
