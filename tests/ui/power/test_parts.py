"""Parts picked for their places."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.parts import PowerPartsView
from tests.ui.power.test_stage import codes, power_of
from tests.ui.test_walk import click_row, row_of


def test_a_fuse_is_picked_left_out_and_given_a_band(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("parts")
    parts = stage.views["parts"]
    assert isinstance(parts, PowerPartsView)
    session = window.session
    assert parts.options.rows_model.rows[0].chosen
    session.edit({"leads.area_mm2": 3.3})
    click_row(qtbot, parts.options, row_of(parts.options, "Flint 50"))
    assert session.project.power.fuse == "flint-50"
    assert "fuse-wire" in codes(window)
    click_row(qtbot, parts.options, row_of(parts.options, "none left out"))
    assert session.project.power.fuse == "none"
    assert "no-fuse" in codes(window)
    parts.follow.click()
    assert session.project.power.fuse is None
    assert not {"no-fuse", "fuse-wire"} & codes(window)
    parts.own_band.click()
    assert len(session.project.power.fuse_band) == len(parts.band.records) == 6
    first = parts.band.table.item(0, 0)
    assert first is not None
    before = session.project
    first.setText("3")
    assert "points that rise" in parts.band.problem.text()
    assert session.project is before
    session.edit({"leads.area_mm2": None})
    # Wire: the school in force is set beside the others, and a thin wire bursts the path.
    click_row(qtbot, parts.places, row_of(parts.places, "main leads"))
    click_row(qtbot, parts.options, row_of(parts.options, "Withy AWG 20"))
    assert session.project.leads.wire == "withy-20"
    assert "leads-limit" in codes(window)
    assert parts.leads["leads"].fields["area_mm2"].edit.placeholderText() == "0.518 mm²"
    parts.follow.click()
    assert "leads-limit" not in codes(window)
    parts.show_place("precharge")
    click_row(qtbot, parts.options, row_of(parts.options, "Stair 22"))
    assert "spark" not in codes(window)
    figures = session.evaluation.figures
    assert figures["power.precharge_peak_a"].number == pytest.approx(58.8 / 22.0)
