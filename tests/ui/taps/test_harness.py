"""Bricks typed, wires in their rows, and the sheet to make the harness by."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.taps.harness import HarnessView
from tests.ui.conftest import forget
from tests.ui.taps.conftest import view_of


@pytest.fixture
def harness(barrow_window: Window) -> HarnessView:
    view = view_of(barrow_window, "harness")
    assert isinstance(view, HarnessView)
    return view


def test_bricks_are_added_until_all_groups_have_one(
    barrow_window: Window, harness: HarnessView
) -> None:
    session = barrow_window.session
    series = session.evaluation.sized.choice.series
    assert harness.says.text().startswith("No bricks")
    assert len(harness.table.rows_model.rows) == series + 1
    harness.grid.add_row()
    assert [item.groups for item in session.project.balance_leads.modules] == [series]
    assert "one plug" not in harness.says.text()
    harness.take([{"name": "lower", "groups": 5, "plugs": 2}])
    assert harness.says.text().startswith(f"The bricks have 5 groups, the pack {series}")
    assert "taps-bricks" in {item.code for item in session.evaluation.findings}
    harness.grid.add_row()
    assert [item.groups for item in session.project.balance_leads.modules] == [5, series - 5]
    rows = [row.cells for row in harness.table.rows_model.rows]
    assert len(rows) == series + 2
    assert [row[2] for row in rows[:6]] == ["1", "1", "1", "2", "2", "2"]
    assert rows[6][8] == "none"
    assert "Sensor 1 goes to g" in harness.sensors.text()
    harness.turn_to(3)
    drawn = harness.sides.views[0].drawn
    assert drawn is not None
    assert drawn.tap == 2
    assert "Groups" in harness.take([{"name": "x", "groups": 0, "plugs": 1}])
    forget(barrow_window)


def test_the_wiring_sheet_is_written(
    qtbot: QtBot,
    barrow_window: Window,
    harness: HarnessView,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    for to, begins in (
        ("wiring", b"%PDF"),
        ("wiring-svg", b"<?xml"),
        ("wiring-csv", b"\xef\xbb\xbfwire,"),
    ):
        out = tmp_path / f"sheet-{to}"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, out=out: (str(out), ""))
        harness.buttons[to].click()

        def written(name: str = out.name) -> list[Path]:
            return [path for path in tmp_path.glob(f"{name}*") if path.stat().st_size]

        qtbot.waitUntil(lambda written=written: bool(written()), timeout=10_000)
        assert written()[0].read_bytes().startswith(begins)
    forget(barrow_window)
