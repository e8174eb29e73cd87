"""The library through the window: search, sort, own cells, curves, files."""

import json
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.core.cells.cell_sheet import FIELDS
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import own_parts_folder
from lumvak.files.own_parts import cells_csv, load_own
from lumvak.files.problem import FileProblem
from lumvak.ui.application import make_window
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.cells.library import LibraryView
from tests.ui.cells.opened import cells_at
from tests.ui.conftest import forget
from tests.ui.need.test_stage import clip, type_cell

PLACES = {field.name: place for place, field in enumerate(FIELDS)}


@pytest.fixture
def library(window: Window) -> LibraryView:
    return library_of(window)


def library_of(window: Window) -> LibraryView:
    stage = cells_at(window, "library")
    assert stage.library is not None
    return stage.library


def names(library: LibraryView) -> list[str]:
    return [row.cells[0] for row in library.table.rows_model.rows]


def test_search_and_sort(library: LibraryView, window: Window) -> None:
    count = len(window.session.catalogue.cells)
    assert len(names(library)) == count
    library.search.setText("ostrel 21700")
    assert names(library)
    assert all(name.startswith("Ostrel") for name in names(library))
    library.search.setText("")
    library.family.setCurrentIndex(library.family.findData("titanate"))
    assert 0 < len(names(library)) < count
    library.family.setCurrentIndex(0)
    library.table.sort_asked.emit(6)
    weights = [float(row.cells[6]) for row in library.table.rows_model.rows]
    assert weights == sorted(weights)
    library.table.sort_asked.emit(6)
    weights = [float(row.cells[6]) for row in library.table.rows_model.rows]
    assert weights == sorted(weights, reverse=True)


def test_a_number_of_the_marked_cell_shows_its_working(
    window: Window, library: LibraryView
) -> None:
    library.mark("tallin-p-105")
    row = next(item for item in library.table.rows_model.rows if item.chosen)
    library.table.cell_clicked.emit("tallin-p-105", 11)
    figure = window.session.figure(window.session.explained_key)
    assert figure is not None
    assert spoken(figure.label).startswith("Charge a cell gives, 14S")
    assert row.cells[11].split()[0] == f"{figure.number:.1f}"
    assert "10.1" in window.margin.title.text()


def test_a_cell_of_ones_own_from_duplicate_to_delete(
    qtbot: QtBot, window: Window, library: LibraryView
) -> None:
    session, sheet = window.session, library.sheet
    library.mark("ostrel-21-48")
    # A sample cannot be typed into.
    item = sheet.fields.table.item(PLACES["mass_g"], 1)
    assert item is not None
    assert not bool(item.flags() & item.flags().ItemIsEditable)
    library.buttons["duplicate"].click()
    assert library.marked == "ostrel-21-48-copy"
    assert "Ostrel 21-48 copy · mine" in names(library)
    grid = sheet.fields
    type_cell(qtbot, grid, PLACES["resistance_dc_ohm"], 1, "19,5")
    type_cell(qtbot, grid, PLACES["capacity_min_ah"], 1, "")
    own = session.catalogue.cells["ostrel-21-48-copy"]
    assert (own.resistance_dc_ohm, own.capacity_min_ah) == (0.0195, None)
    shown = grid.table.item(PLACES["capacity_min_ah"], 1)
    assert shown is not None
    assert shown.text() == "4.66 Ah, 97 % of typical"
    # Its origin can be said; a bad value is explained and changes nothing.
    problem = sheet.take(
        [
            {**record, "origin": "measured"} if record["name"] == "mass_g" else record
            for record in grid.records
        ]
    )
    assert problem == ""
    assert session.catalogue.cells["ostrel-21-48-copy"].measured == ("mass_g",)
    type_cell(qtbot, grid, PLACES["voltage_empty_v"], 1, "3.9")
    assert "voltages must rise" in grid.problem.text()
    assert session.catalogue.cells["ostrel-21-48-copy"].voltage_empty_v == 2.5
    # It is on the disk, and picked like any other.
    assert [cell.id for cell in load_own().cells] == ["ostrel-21-48-copy"]
    session.edit({"pack.cell": "ostrel-21-48-copy"})
    assert session.evaluation.figures["cell.resistance_ohm"].number == 0.0195
    # A change of it reaches the project that carries a copy.
    type_cell(qtbot, grid, PLACES["resistance_dc_ohm"], 1, "25")
    assert session.evaluation.figures["cell.resistance_ohm"].number == 0.025
    session.undo_stack.undo()
    assert session.evaluation.figures["cell.resistance_ohm"].number == 0.0195
    session.undo_stack.undo()
    library.buttons["delete"].click()
    assert "ostrel-21-48-copy" not in session.catalogue.cells
    session.undo_stack.undo()
    assert session.catalogue.cells["ostrel-21-48-copy"].resistance_dc_ohm == 0.0195


def test_a_curve_is_pasted_point_by_point(
    qtbot: QtBot, window: Window, library: LibraryView
) -> None:
    library.mark("ostrel-21-48")
    library.buttons["duplicate"].click()
    sheet = library.sheet
    sheet.which.picked.emit("points")
    clip("charge; volts\n0; 2,6\n25; 3,4\n50; 3,65\n100; 4,18\n")
    sheet.points.paste()
    cell = window.session.catalogue.cells[library.marked]
    assert window.session.catalogue.chemistry_of(cell).curve == (
        (0.0, 2.6),
        (0.25, 3.4),
        (0.5, 3.65),
        (1.0, 4.18),
    )
    type_cell(qtbot, sheet.points, 2, 1, "3.7 V")
    assert window.session.catalogue.chemistry_of(cell).curve[2] == (0.5, 3.7)
    type_cell(qtbot, sheet.points, 2, 1, "4.5 V")
    assert "never fall" in sheet.points.problem.text()
    clip("0 2.6\n1 2 3")
    sheet.points.paste()
    assert "line 2" in sheet.points.problem.text()


def test_curves_are_compared(window: Window, library: LibraryView) -> None:
    sheet = library.sheet
    library.mark("ostrel-21-48")
    sheet.keep.click()
    library.mark("fennimor-b-105")
    drawn = [item.name() for item in sheet.plot.listDataItems() if item.name()]
    assert drawn == ["Fennimor block 105", "Ostrel 21-48"]
    sheet.drop.click()
    assert len(sheet.plot.listDataItems()) == 2


def test_cells_on_hand_and_files(window: Window, library: LibraryView, tmp_path: Path) -> None:
    session = window.session
    library.mark("ostrel-21-48")
    library.held.setText("120")
    library.held.editingFinished.emit()
    assert [(item.cell, item.count) for item in session.project.pack.drawer] == [
        ("ostrel-21-48", 120)
    ]
    table = tmp_path / "bought.csv"
    fresh = replace(session.catalogue.cells["ostrel-21-48"], id="bought-1", name="=Bought 1")
    table.write_text(cells_csv([fresh]), "utf-8")
    library.bring_in(table)
    assert session.catalogue.cells["bought-1"].name == "=Bought 1"
    assert "1 cell brought in" in window.notice.text.text()
    before = load_own()
    table.write_text(cells_csv([fresh]).replace("nmc-rich", "unknown"), "utf-8")
    library.bring_in(table)
    assert "names the chemistry “unknown”" in window.notice.text.text()
    assert load_own() == before
    out = tmp_path / "own.json"
    library.write_out(out, own=True)
    assert [cell["id"] for cell in json.loads(out.read_text("utf-8"))["cells"]] == ["bought-1"]
    session.undo_stack.undo()
    assert "bought-1" not in session.catalogue.cells
    library.bring_in(out)
    assert "bought-1" in session.catalogue.cells
    table.write_text("continuous_a,name,capacity_min_ah\n11,Stall find,4.4\n", "utf-8")
    library.bring_in(table)
    found = window.session.catalogue.cells["stall-find"]
    assert (found.continuous_a, found.capacity_min_ah) == (11.0, 4.4)
    assert "resistance_dc_ohm" in found.guessed
    QApplication.processEvents()


def test_a_pulse_and_its_length_come_and_go_together(
    qtbot: QtBot, window: Window, library: LibraryView
) -> None:
    library.mark("ostrel-21-48")
    library.buttons["duplicate"].click()
    grid = library.sheet.fields

    def pulse() -> tuple[float | None, float | None]:
        cell = window.session.catalogue.cells[library.marked]
        return cell.pulse_a, cell.pulse_s

    type_cell(qtbot, grid, PLACES["pulse_a"], 1, "")
    assert pulse() == (None, None)
    type_cell(qtbot, grid, PLACES["pulse_a"], 1, "20 A")
    assert pulse() == (20.0, 10.0)
    type_cell(qtbot, grid, PLACES["pulse_s"], 1, "3 s")
    assert pulse() == (20.0, 3.0)
    type_cell(qtbot, grid, PLACES["pulse_a"], 1, "2 A")
    assert "pulse_a must not be under continuous_a" in grid.problem.text()
    assert pulse() == (20.0, 3.0)
    assert library.sheet.change(
        window.session.catalogue.cells[library.marked], "chemistry", "none", "data sheet"
    ).startswith("“none” is not known")


def test_a_new_cell_says_what_it_does_not_know(window: Window, library: LibraryView) -> None:
    library.mark("ostrel-21-48")
    library.buttons["new"].click()
    cell = window.session.catalogue.cells[library.marked]
    assert cell.name == "New cell"
    assert not cell.sample
    assert {"capacity_typical_ah", "continuous_a", "mass_g", "price"} == set(cell.guessed)
    assert not any(check.said for check in library.sheet.checklist.checks)
    library.buttons["new"].click()
    assert library.marked == "new-cell-2"


def test_a_folder_that_cannot_be_written_changes_nothing(
    window: Window, library: LibraryView, monkeypatch: pytest.MonkeyPatch
) -> None:
    def full(*_: object) -> None:
        raise FileProblem("own.json was not saved: no space left")

    before = dict(window.session.catalogue.cells)
    monkeypatch.setattr("lumvak.ui.session.change_own", full)
    library.buttons["duplicate"].click()
    assert "no space left" in window.notice.text.text()
    assert window.session.catalogue.cells == before
    assert not window.session.unsaved


def test_a_broken_file_of_own_cells_is_never_written_over(qapp: QApplication, qtbot: QtBot) -> None:
    broken = own_parts_folder() / "own.json"
    broken.parent.mkdir(parents=True, exist_ok=True)
    broken.write_text('{"format": "lumvak-parts", "version": 9}', "utf-8")
    window = make_window(qapp, None)
    qtbot.addWidget(window, before_close_func=forget)
    window.show()
    library = library_of(window)
    assert names(library)
    library.buttons["duplicate"].click()
    assert "newer Lumvak" in window.notice.text.text()
    assert '"version": 9' in broken.read_text("utf-8")


def test_every_number_of_the_marked_cell_has_its_working(
    window: Window, library: LibraryView
) -> None:
    row = next(item for item in library.table.rows_model.rows if item.chosen)
    for place in (3, 4, 5, 6, 7, 8, 10, 11, 12):
        library.table.cell_clicked.emit("ostrel-21-48", place)
        figure = window.session.figure(window.session.explained_key)
        assert figure is not None
        shown = row.cells[place].split()[0]
        if place == 10:
            assert shown.endswith(f"S{spoken(figure.value)}P")
        else:
            factor = 1e3 if figure.unit == "ohm" else 1.0
            assert float(shown) == pytest.approx(factor * figure.number, rel=0.01)
