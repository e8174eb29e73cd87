"""A person's path through the real window, from a new project to a saved pack."""

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QModelIndex, QPoint, Qt
from PyQt6.QtWidgets import QFileDialog, QWidget
from pytestqt.qtbot import QtBot

from lumvak.cli.main import main
from lumvak.cli.project.evaluate import evaluation_json
from lumvak.cli.table import json_text
from lumvak.ui.shell.window import Window
from lumvak.ui.speech import say_fixed
from lumvak.ui.stages.cells.stage import CellsStage
from lumvak.ui.stages.joints.stage import JointsStage
from lumvak.ui.stages.need.stage import NeedStage
from lumvak.ui.stages.power.boards import BoardsView
from lumvak.ui.stages.power.stage import PowerStage
from lumvak.ui.widgets.tables import RowsTable


def type_into(qtbot: QtBot, stage: QWidget, name: str, text: str) -> None:
    fields = stage.fields  # type: ignore[attr-defined]
    edit = fields[name].edit
    edit.setFocus()
    edit.selectAll()
    qtbot.keyClicks(edit, text)
    qtbot.keyClick(edit, Qt.Key.Key_Return)


def click_row(qtbot: QtBot, table: RowsTable, index: QModelIndex) -> None:
    table.scrollTo(index)
    viewport = table.viewport()
    assert viewport is not None
    qtbot.mouseClick(viewport, Qt.MouseButton.LeftButton, pos=table.visualRect(index).center())


def row_of(table: RowsTable, text: str) -> QModelIndex:
    for place, row in enumerate(table.rows_model.rows):
        if " ".join(row.cells[:2]).startswith(text):
            return table.rows_model.index(place, 0)
    raise AssertionError(f"no row {text}")


def test_from_a_need_to_a_saved_pack(
    qtbot: QtBot,
    window: Window,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    session = window.session
    window.files.new()
    assert session.project.name == "Untitled pack"
    assert session.evaluation.sized.choice.index == 0

    # The need, typed as people type it.
    need = window.stages["need"]
    assert isinstance(need, NeedStage)
    for name, text in (
        ("rated_voltage_v", "36V"),
        ("max_voltage_v", "43,0 V"),
        ("stop_voltage_v", "30"),
        ("current_a", "18000 mA"),
        ("peak_current_a", "40 A"),
        ("peak_duration_s", "8"),
        ("runtime_h", "1 h 15"),
    ):
        type_into(qtbot, need, name, text)
    typed = session.project.need
    assert (typed.max_voltage_v, typed.current_a, typed.runtime_h) == (43.0, 18.0, 1.25)

    # Cells and count: Alt+2 opens the stage, a click picks a row.
    qtbot.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    assert window.stage == "cells"
    cells = window.stages["cells"]
    assert isinstance(cells, CellsStage)
    place = row_of(cells.table, "Ostrel 21-40 P 10S")
    cells.table.setCurrentIndex(place)
    qtbot.keyClick(cells.table, Qt.Key.Key_Right)
    place = row_of(cells.table, "Ostrel 21-40 P 10S9P")
    click_row(qtbot, cells.table, place)
    assert session.project.pack.cell == "ostrel-21-40p"
    assert (session.project.pack.series, session.project.pack.parallel) == (10, 9)
    assert window.title_line.labels[0].said == "10 in series, 9 in parallel"

    # Joints: the weakest candidate is picked, and the path shows it.
    window.open_stage("joints")
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    stage.show_view("conductors")
    joints = stage.conductors
    click_row(qtbot, joints.table, row_of(joints.table, "nickel 0.1 × 5 mm 1"))
    assert session.project.joints.series.part == "nickel-0.1x5"
    click_row(qtbot, joints.table, row_of(joints.table, "nickel 0.2 × 10 mm 1"))
    assert session.project.joints.series.part == "nickel-0.2x10"

    # The board: the proposed one is in force; another is picked.
    window.open_stage("power")
    stage_of_power = window.stages["power"]
    assert isinstance(stage_of_power, PowerStage)
    power = stage_of_power.views["board"]
    assert isinstance(power, BoardsView)
    rows = power.table.rows_model.rows
    assert rows[0].chosen
    assert rows[0].proposed
    other = next(row.value for row in rows if not row.faded and not row.chosen)
    click_row(qtbot, power.table, row_of(power.table, session.catalogue.boards[other].name))
    assert session.project.protection.board == other

    # Save; the numbers on the screen, from the command line and in the file agree.
    path = tmp_path / "walked.lumvak.json"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    qtbot.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert path.exists()
    assert not session.unsaved
    assert window.title_line.state.text() == "saved"
    assert main(["evaluate", str(path), "--json"]) == 0
    printed = json.loads(capsys.readouterr().out)
    assert (
        printed["figures"] == json.loads(json_text(evaluation_json(session.evaluation)))["figures"]
    )
    for label in window.title_line.labels[1:4]:
        figure = printed["figures"][label.key]
        assert label.said == say_fixed(figure["value"], figure["unit"])
    stored = json.loads(path.read_text("utf-8"))
    assert stored["pack"]["parallel"] == printed["figures"]["pack.parallel"]["value"] == 9
    assert [cell["id"] for cell in stored["parts"]["cells"]] == ["ostrel-21-40p"]

    # Undo reaches everything, back to the new project; redo forward again.
    steps = session.undo_stack.index()
    assert steps == 10
    for _ in range(steps):
        qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.project.pack.cell is None
    assert session.project.need.current_a == 15.0
    for _ in range(steps):
        session.undo_stack.redo()
    assert session.project.protection.board == other
    assert not session.unsaved


def test_the_old_tool_takes_another_path(qtbot: QtBot, window: Window) -> None:
    session = window.session
    window.files.new()
    need = window.stages["need"]
    assert isinstance(need, NeedStage)
    assert not need.of_kind.fields["nickel_cells"].isVisible()
    need.kind.picked.emit("tool")
    assert need.of_kind.fields["nickel_cells"].isVisible()
    type_into(qtbot, need, "rated_voltage_v", "18 V")
    assert need.of_kind.fields["nickel_cells"].edit.placeholderText() == "15"
    assert need.fields["max_voltage_v"].edit.placeholderText() == "21.8 V"
    assert need.fields["max_voltage_v"].note.text() == "assumed"
    need.of_kind.contacts.picked.emit(2)
    window.open_stage("power")
    stage_of_power = window.stages["power"]
    assert isinstance(stage_of_power, PowerStage)
    power = stage_of_power.views["board"]
    assert isinstance(power, BoardsView)
    # Boards for other counts are only counted.
    assert power.table.rows_model.rows[-1].cells[0] == "others"
    assert "for other counts" in power.table.rows_model.rows[-1].cells[1]
    assert not [
        row for row in power.table.rows_model.rows if not row.faded and row.cells[5] == "two"
    ]
    codes = {item.code for item in session.evaluation.findings}
    assert {"window-assumed", "one-port"} <= codes


def test_a_click_on_the_path_goes_to_where_a_link_is_set(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    boxes = view.sections()
    keys = [link.key for link in window.session.evaluation.path.links]
    for key, stage in (("series-joints", "joints"), ("board", "power"), ("cells", "cells")):
        spot = boxes[keys.index(key)].center()
        qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=spot.toPoint())
        assert window.stage == stage
    qtbot.mouseClick(
        view, Qt.MouseButton.LeftButton, pos=boxes[keys.index("group-joints")].center().toPoint()
    )
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    assert stage.view.value == "conductors"
    assert stage.conductors.role.value == "group"
    assert window.session.explained_key == "network.group_limit_a"


def test_the_path_is_walked_by_keys(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    view.setFocus()
    for _ in range(5):
        qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    assert window.stage == "power"
    assert window.session.explained_key == "leads.limit_a"
    window.build_line.setFocus()
    qtbot.keyClick(window.build_line.focusProxy(), Qt.Key.Key_Up)
    assert window.stage == "joints"


def test_a_click_on_a_number_unfolds_its_working(qtbot: QtBot, window: Window) -> None:
    label = window.title_line.labels[3]
    qtbot.mouseClick(label, Qt.MouseButton.LeftButton, pos=QPoint(4, 4))
    assert window.session.explained_key == "pack.energy_wh"
    assert window.margin.title.text() == "Why 1693 Wh? Energy"
    tree = window.margin.tree
    root = tree.topLevelItem(0)
    assert root is not None
    assert root.childCount() == 2
    nominal = root.child(0)
    assert nominal is not None
    nominal.setExpanded(True)
    assert nominal.childCount() == 2
    # The working follows the next edit and keeps what was unfolded.
    window.session.edit({"pack.series": 13})
    root = tree.topLevelItem(0)
    assert root is not None
    again = root.child(0)
    assert again is not None
    assert again.isExpanded()
    assert "1572" in window.margin.title.text()


def test_the_school_and_the_rise_curve(qtbot: QtBot, window: Window) -> None:
    window.open_stage("joints")
    stage = window.stages["joints"]
    assert isinstance(stage, JointsStage)
    stage.show_view("conductors")
    joints = stage.conductors
    joints.school.picked.emit("rule")
    assert window.session.evaluation.laid_out.series.figures.limit.number == pytest.approx(5.0)
    joints.rule_presets[1].click()
    assert window.session.evaluation.laid_out.series.figures.limit.number == pytest.approx(10.0)
    joints.view.picked.emit("rise")
    plot = joints.rise_plot
    assert plot is not None
    assert plot.isVisible()
    curves = [item.getData() for item in plot.getPlotItem().listDataItems()]
    assert len(curves) == 2
    assert all(float(heights[0]) == 0.0 for _, heights in curves)
    joints.refused.setChecked(True)
    assert any("the welder joins" in row.cells[0] for row in joints.table.rows_model.rows)
    joints.follow.click()
    assert window.session.project.joints.series.part is None
