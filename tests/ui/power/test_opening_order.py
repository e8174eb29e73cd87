"""What opens first, on the chart."""

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from lumvak.core.power.fuses import fuse_curves
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.opening_order import OpenFirstView
from tests.ui.power.test_stage import power_of
from tests.ui.test_walk import click_row, row_of


def test_the_chart_is_read_and_changed_on_its_legend(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("order")
    view = stage.views["order"]
    assert isinstance(view, OpenFirstView)
    plot = view.plot
    assert set(plot.drawn) == {
        curve.key for curve in window.session.evaluation.power.curves if curve.kind != "board"
    }
    assert {"stage-1", "stage-2", "stage-3"} <= set(plot.drawn)
    # The cursor reads every curve.
    plot.set_seconds(100.0)
    assert view.values["load"].text() == "22 A"
    # By ear too: the name of what has the focus says it.
    heard = plot.seen.accessibleName()
    assert heard.startswith("Current against time of every part: after 100 s: load 22 A; ")
    assert "; BMS, slow 60 A; " in heard
    assert view.values["stage-1"].text() == "60 A"
    plot.setFocus()
    qtbot.keyClick(plot, Qt.Key.Key_Left)
    assert plot.seconds == pytest.approx(100.0 * 10.0**-0.05)
    # A curve is switched off and on.
    view.boxes["cells"].setChecked(False)
    assert "cells" not in plot.drawn
    assert "cells" not in plot.seen.accessibleName()
    view.boxes["cells"].setChecked(True)
    assert "cells" in plot.drawn
    # A part changed on the legend moves its curve at once.
    window.session.edit({"leads.area_mm2": 3.3})
    before = np.array(plot.drawn["fuse"][0].getOriginalDataset()[1])
    box = view.parts["fuse"]
    assert box.placeholderText() == window.session.evaluation.power.fuse.part.name
    place = next(at for at, (name, _) in enumerate(box.offered) if name == "Flint 63")
    box.activated.emit(place)
    assert window.session.project.power.fuse == "flint-63"
    after = np.array(plot.drawn["fuse"][0].getOriginalDataset()[1])
    assert after[-1] > before[-1]
    fuse = window.session.catalogue.fuses["flint-63"]
    ambient = window.session.evaluation.sized.demand.ambient.number
    assert after[-1] in [pytest.approx(curve[-1]) for curve in fuse_curves(fuse, ambient)]
    rows = {row.cells[:2]: row for row in view.table.rows_model.rows}
    assert rows["load", "BMS, slow"].cells[5] == "yes"
    assert rows["main fuse", "main leads"].cells[5].startswith("no, from")
    click_row(qtbot, view.table, row_of(view.table, "main fuse main leads"))
    pair = next(
        item
        for item in window.session.evaluation.power.pairs
        if (item.first, item.second) == ("fuse", "leads")
    )
    assert plot.seconds == pytest.approx(pair.at_s)
    # The number of the pair tells how it came about, down to what was typed.
    figure = window.session.figure(window.session.explained_key)
    assert figure is not None
    assert figure.key == "order.fuse.leads.margin_a"
    assert figure.number == pytest.approx(pair.margin_a)
    second, first, _ = figure.inputs
    assert second.number - first.number == pytest.approx(pair.margin_a, rel=0.02)
