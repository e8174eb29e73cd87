"""A person's path through the views of the power path."""

import csv
import json
import re
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication, QBoxLayout, QFileDialog, QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.core.power.fuses import fuse_curves
from lumvak.core.time_current import at_time
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import say_fixed
from lumvak.ui.stages.power.at_rest import RestView
from lumvak.ui.stages.power.board_settings import BoardSettingsView
from lumvak.ui.stages.power.boards import BoardsView
from lumvak.ui.stages.power.motor_start import StartView
from lumvak.ui.stages.power.opening_order import OpenFirstView
from lumvak.ui.stages.power.parts import PowerPartsView
from lumvak.ui.stages.power.rating import RatingView
from lumvak.ui.stages.power.stage import VIEWS, PowerStage
from tests.conftest import TRIMMER
from tests.ui.test_walk import click_row, row_of, type_into


def power_of(window: Window) -> PowerStage:
    window.open_stage("power")
    stage = window.stages["power"]
    assert isinstance(stage, PowerStage)
    return stage


def codes(window: Window) -> set[str]:
    return {item.code for item in window.session.evaluation.findings}


def test_every_view_opens_and_says_what_it_asks(window: Window) -> None:
    stage = power_of(window)
    titles = set()
    for view, _ in VIEWS:
        stage.show_view(view)
        assert stage.pages.currentWidget() is stage.views[view]
        titles.add(stage.head.title.text())
    assert len(titles) == len(VIEWS)


def test_a_board_that_can_be_set_is_set(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    boards = stage.views["board"]
    assert isinstance(boards, BoardsView)
    click_row(qtbot, boards.table, row_of(boards.table, "Portcullis 14-80"))
    assert window.session.project.protection.board == "portcullis-14-80"
    stage.show_view("settings")
    sheet = stage.views["settings"]
    assert isinstance(sheet, BoardSettingsView)
    table = sheet.grid.table
    value = table.item(0, 1)
    assert value is not None
    assert value.text() == "4.25 V"
    value.setText("4,4 V")
    assert window.session.project.protection.settings[0].value == 4.4
    assert "setting-beyond" in codes(window)
    board = window.session.evaluation.power.board
    assert board is not None
    assert board.over_voltage_v == 4.4
    # Emptied, the proposed value is back.
    again = table.item(0, 1)
    assert again is not None
    again.setText("")
    assert window.session.project.protection.settings == ()
    assert "setting-beyond" not in codes(window)
    # A delay of nothing is refused, and what was typed stays.
    delay = table.item(2, 3)
    assert delay is not None
    delay.setText("0 s")
    assert "a number over 0" in sheet.grid.problem.text()
    assert window.session.project.protection.settings == ()
    # The slow stage moves with what is typed.
    slow = table.item(2, 1)
    assert slow is not None
    slow.setText("100 A")
    assert "setting-beyond" in codes(window)
    again = table.item(2, 1)
    assert again is not None
    again.setText("50 A")
    assert "setting-beyond" not in codes(window)
    curve = next(item for item in window.session.evaluation.power.curves if item.key == "board")
    assert at_time(curve.low_a, 1000.0) == 50.0


def test_the_settings_sheet_is_saved_beside(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage = power_of(window)
    window.session.edit({"protection.board": "portcullis-14-80"})
    stage.show_view("settings")
    sheet = stage.views["settings"]
    assert isinstance(sheet, BoardSettingsView)
    for name in ("sheet.csv", "sheet.json"):
        path = tmp_path / name
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, p=path: (str(p), ""))
        sheet.save.click()
    rows = list(csv.DictReader((tmp_path / "sheet.csv").read_text("utf-8").splitlines()))
    told = json.loads((tmp_path / "sheet.json").read_text("utf-8"))
    assert told["board"] == "portcullis-14-80"
    assert [row["setting"] for row in rows] == [row["setting"] for row in told["settings"]]
    assert float(rows[0]["value"]) == told["settings"][0]["value"] == 4.25
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "none" / "x.csv"), "")
    )
    (tmp_path / "none").write_text("a file, no folder")
    sheet.save.click()
    assert window.notice.isVisible()


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
    assert view.values["stage-1"].text() == "60 A"
    plot.setFocus()
    qtbot.keyClick(plot, Qt.Key.Key_Left)
    assert plot.seconds == pytest.approx(100.0 * 10.0**-0.05)
    # A curve is switched off and on.
    view.boxes["cells"].setChecked(False)
    assert "cells" not in plot.drawn
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
    assert rows["load", "board, slow"].cells[5] == "yes"
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


def test_the_tool_that_stops_is_cured_by_a_surge_part(qtbot: QtBot, window: Window) -> None:
    window.files.open(TRIMMER)
    stage = power_of(window)
    stage.show_view("start")
    view = stage.views["start"]
    assert isinstance(view, StartView)
    opens = {row.cells[:2]: row.cells[3] for row in view.table.rows_model.rows}
    assert opens["fast", "none"].startswith("after 1")
    assert opens["slow", "none"] == "no"
    assert opens["fast", "Moor 0.08 Ω"] == "no"
    click_row(qtbot, view.table, row_of(view.table, "fast none"))
    figure = window.session.figure("start.fast.bare.spare_a")
    assert window.session.explained_key == "start.fast.bare.spare_a"
    assert figure is not None
    assert figure.number < 0.0
    place = next(at for at, (_, part) in enumerate(view.surge.offered) if part == "moor-0.08")
    view.surge.activated.emit(place)
    assert window.session.project.power.surge == "moor-0.08"
    assert "board-start" not in codes(window)
    assert "surge" in {link.key for link in window.session.evaluation.path.links}
    # Without a stall current the largest that starts is drawn, and it says so.
    edit = view.stall.edit
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClick(edit, Qt.Key.Key_Delete)
    qtbot.keyClick(edit, Qt.Key.Key_Return)
    assert view.plot.isVisible()
    assert "No start is known" in view.empty.text()
    assert re.search(
        r"up to [\d.]+ A with a fast pull, up to [\d.]+ A with a slow", view.empty.text()
    )
    assert {row.cells[3] for row in view.table.rows_model.rows} == {"no"}


def test_an_upgrade_is_taken_with_a_click(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("rating")
    view = stage.views["rating"]
    assert isinstance(view, RatingView)
    carried = window.session.evaluation.path.links
    least = min(link.continuous_a for link in carried)
    assert view.labels[0].said == f"{say_fixed(least, 'A')}, series joints"
    click_row(qtbot, view.steps, view.steps.rows_model.index(1, 0))
    assert window.session.explained_key.startswith("rating.with.fuse.")
    click_row(qtbot, view.steps, view.steps.rows_model.index(0, 0))
    assert window.session.project.joints.series.part == "nickel-0.1x5"
    view.take.click()
    assert window.session.evaluation.path.weakest is not None
    assert window.session.evaluation.path.weakest.continuous_a > 22.0
    click_row(qtbot, view.links, row_of(view.links, "fuse"))
    assert window.session.explained_key == "power.fuse_hold_a"


def test_a_meter_left_on_flattens_the_pack(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("rest")
    view = stage.views["rest"]
    assert isinstance(view, RestView)
    assert not {"shelf-cuts", "shelf-flat"} & codes(window)
    type_into(qtbot, view, "meter_ma", "20 mA")
    assert "shelf-cuts" in codes(window)
    type_into(qtbot, view, "converter_ma", "0,06 A")
    assert window.session.project.rest.converter_ma == pytest.approx(60.0)
    type_into(qtbot, view, "days", "30")
    assert "shelf-cuts" in codes(window)
    type_into(qtbot, view, "meter_ma", "0")
    type_into(qtbot, view, "converter_ma", "0")
    assert not {"shelf-cuts", "shelf-flat"} & codes(window)


def test_a_click_on_the_path_goes_to_the_part(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    boxes = view.sections()
    keys = [link.key for link in window.session.evaluation.path.links]
    for key, place in (("fuse", "fuse"), ("leads", "leads"), ("connector", "connector")):
        spot = boxes[keys.index(key)].center().toPoint()
        qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=spot)
        parts = power_of(window).views["parts"]
        assert isinstance(parts, PowerPartsView)
        assert power_of(window).view.value == "parts"
        assert parts.place == place
    assert not any(edit.property("bad") for edit in window.findChildren(QLineEdit))


def test_the_legend_moves_under_a_narrow_chart_and_the_wheel_picks_nothing(
    qtbot: QtBot, window: Window
) -> None:
    stage = power_of(window)
    stage.show_view("order")
    view = stage.views["order"]
    assert isinstance(view, OpenFirstView)
    window.resize(1400, 800)
    assert view.upper.direction() == QBoxLayout.Direction.LeftToRight
    window.resize(960, 640)
    window.set_text(150)
    stage = power_of(window)
    stage.show_view("order")
    narrow = stage.views["order"]
    assert isinstance(narrow, OpenFirstView)
    qtbot.waitUntil(lambda: narrow.upper.direction() == QBoxLayout.Direction.TopToBottom)
    view = narrow
    box = view.parts["fuse"]
    place = QPointF(box.rect().center())
    turn = QWheelEvent(
        place,
        box.mapToGlobal(place),
        QPoint(),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    before = window.session.project
    QApplication.sendEvent(box, turn)
    assert window.session.project is before
    assert box.currentIndex() == -1


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
