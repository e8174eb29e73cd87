"""Parts in the room, typed and dragged in the window; the holder picked."""

from typing import Any

import pytest
from msgspec.structs import asdict
from PyQt6.QtWidgets import QTableWidgetItem
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.arrangement.stage import ArrangementStage


@pytest.fixture
def stage(window: Window) -> ArrangementStage:
    window.open_stage("arrangement")
    made = window.stages["arrangement"]
    assert isinstance(made, ArrangementStage)
    made.list.picked.emit("parts")
    return made


def type_in(stage: ArrangementStage, row: int, head: str, text: str) -> None:
    table = stage.parts.grid.table
    heads = [table.horizontalHeaderItem(at).text() for at in range(table.columnCount())]  # type: ignore[union-attr]
    item = table.item(row, heads.index(head))
    assert isinstance(item, QTableWidgetItem)
    item.setText(text)


def test_a_part_is_added_and_typed(stage: ArrangementStage, session: Session) -> None:
    assert stage.lists.currentWidget() is stage.parts
    before = session.evaluation.figures["layout.mass_kg"].number
    stage.parts.grid.add.click()
    row = len(session.project.arrangement.kept_free) - 1
    for head, text in (
        ("part", "mat"),
        ("is", "foam"),
        ("x", "24"),
        ("y", "60"),
        ("length", "50"),
        ("width", "2 cm"),
        ("height", "10"),
        ("stands", "over the cells"),
        ("weighs", "0.1 kg"),
    ):
        type_in(stage, row, head, text)
        assert not stage.parts.grid.problem.isVisibleTo(stage.parts.grid), head
    made = session.project.arrangement.kept_free[row]
    assert asdict(made) == {
        "name": "mat",
        "kind": "foam",
        "x_mm": 24.0,
        "y_mm": 60.0,
        "length_mm": 50.0,
        "width_mm": 20.0,
        "height_mm": 10.0,
        "stands": "lid",
        "mass_g": 100.0,
    }
    # The cells make room for it, and some leads grow longer.
    after = session.evaluation.figures["layout.mass_kg"].number
    assert after == pytest.approx(before + 0.1, abs=0.02)
    type_in(stage, row, "is", "a hat")
    assert "accepted: BMS, way out of the leads" in stage.parts.grid.problem.text()
    assert session.project.arrangement.kept_free[row].kind == "foam"


def test_what_is_not_typed_is_shown_as_taken(stage: ArrangementStage, session: Session) -> None:
    table = stage.parts.grid.table
    board = session.evaluation.sized.boards.board
    place = next(
        at for at, item in enumerate(session.project.arrangement.kept_free) if item.kind == "board"
    )
    assert board is not None
    assert table.item(place, 6).text() == "all"  # type: ignore[union-attr]
    assert table.item(place, 8).text() == f"{board.mass_g:g} g"  # type: ignore[union-attr]


def test_a_holder_is_picked_and_taken_out(
    qtbot: QtBot, stage: ArrangementStage, session: Session
) -> None:
    box: Any = stage.room.holder
    names = [box.itemText(at) for at in range(box.count())]
    # Those alone that take this cell.
    assert names == ["no holder", "Trellis 21", "Wattle 21, nested"]
    box.activated.emit(1)
    assert session.project.arrangement.holder == "trellis-21"
    assert session.evaluation.laid_out.joined_pack.layout.gap_mm == pytest.approx(23.0 - 21.3)
    assert not stage.room.gap.isVisibleTo(stage.room)
    assert stage.room.fields["pitch_mm"].edit.placeholderText() == "23 mm"
    box.activated.emit(0)
    assert session.project.arrangement.holder is None


def test_flat_cells_are_asked_for_growth_and_plates(
    stage: ArrangementStage, session: Session
) -> None:
    plate, swell = stage.room.fields["plate_mm"], stage.room.swell
    assert not plate.isVisibleTo(stage.room) and not swell.isVisibleTo(stage.room)
    session.edit({"pack.cell": "kimbry-p-50"})
    assert plate.isVisibleTo(stage.room) and swell.isVisibleTo(stage.room)
    assert not stage.room.holder.isVisibleTo(stage.room)
    assert swell.edit.placeholderText() == "8 %"
    swell.edit.setText("5 %")
    swell.commit()
    assert session.project.arrangement.swell_share == pytest.approx(0.05)
