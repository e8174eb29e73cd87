"""Where the main leads leave."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.joints.joined_pack import OnTableView


def test_take_off_places_are_compared_and_the_best_taken(
    qtbot: QtBot, view: OnTableView, session: Session
) -> None:
    view.show_lower("places")
    rows = view.places.table.rows_model.rows
    assert rows[0].chosen and rows[0].cells[0] == "as drawn"
    best = next(row for row in rows if row.proposed)
    assert float(best.cells[3]) < float(rows[0].cells[3])
    view.places.table.picked.emit(best.value)
    assert session.evaluation.figures["network.cell_excess"].number == pytest.approx(
        best.value.excess, abs=1e-6
    )
    view.places.follow.click()
    assert session.project.joints.lead_points == ()
    view.places.share.click()
    assert len(session.project.joints.lead_points) == 4
    view.places.fewer.click()
    assert [item.cell for item in session.project.joints.lead_points] == [1, 1]
