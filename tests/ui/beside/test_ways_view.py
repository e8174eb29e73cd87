"""Ways to join stand side by side, and one is picked."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.ways_view import WaysView
from tests.ui.beside.conftest import beside


def test_each_way_has_a_row_and_a_click_has_it_in_force(window: Window) -> None:
    view = beside(window, "ways").views["ways"]
    assert isinstance(view, WaysView)
    assert view.waits.isVisible() and not view.table.isVisible()
    window.session.edit({"beside.capacity_ah": 12.0, "beside.at": 0.7})
    rows = {row.value: row for row in view.table.rows_model.rows}
    assert list(rows) == ["direct", "switch", "ideal-diodes", "diodes", "one-at-a-time"]
    assert rows["direct"].chosen and rows["switch"].cells[2] == "0 A"
    assert rows["diodes"].cells[3].endswith("W") and not rows["direct"].cells[3]
    view.table.picked.emit("diodes")
    assert window.session.project.beside.by == "diodes"
    assert next(row for row in view.table.rows_model.rows if row.chosen).value == "diodes"
    assert "heat sink" in view.wants.text()
