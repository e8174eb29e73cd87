"""What if a strip breaks."""

from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView


def test_what_if_a_strip_breaks_and_a_variant_is_held(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    view.show_lower("broken")
    view.what_if.worst.click()
    assert len(view.broken.pieces) == 1
    rows = {row.cells[0]: row.cells for row in view.what_if.table.rows_model.rows}
    assert rows["busiest cell"][3].startswith("+")
    assert "The others then carry" in view.what_if.about.text()
    held = session.project
    view.whole.click()
    assert view.broken.nothing and session.project is held
    view.what_if.hold.click()
    session.edit({"joints.take_off": "middle"})
    rows = {row.cells[0]: row.cells for row in view.what_if.table.rows_model.rows}
    assert rows["busiest cell"][5].startswith("−")
    held = view.what_if.held
    assert held is not None
    view.what_if.look.click()
    assert view.side_b.drawn.leads == held.leads != session.evaluation.laid_out.joined_pack.leads  # type: ignore[union-attr]
    view.what_if.drop.click()
    assert view.side_b.drawn.leads == session.evaluation.laid_out.joined_pack.leads  # type: ignore[union-attr]
    assert rows.keys() == {row.cells[0] for row in view.what_if.table.rows_model.rows}
