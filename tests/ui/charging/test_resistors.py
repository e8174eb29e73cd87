"""Resistors side by side, by hand, and at the bottom."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.charging.resistors import ResistorsView
from tests.ui.charging.conftest import Opener, even


@pytest.fixture
def view(open_view: Opener) -> ResistorsView:
    page = open_view("resistors")
    assert isinstance(page, ResistorsView)
    return page


def test_neighbours_stand_side_by_side_and_one_is_taken(
    qtbot: QtBot, view: ResistorsView, session: Session
) -> None:
    rows = view.table.rows_model.rows
    assert [row.cells[0] for row in rows] == ["15 Ω", "18 Ω", "22 Ω", "27 Ω", "33 Ω"]
    told = [label.accessibleName() for label in view.labels]
    assert told[:2] == ["carries 0.19 A", "gives off 0.79 W"] and view.says.isHidden()
    assert told[3] == "balanced within 3 h by 3.88 Ω or less"
    with qtbot.waitSignal(session.explained) as shown:
        view.labels[0].click()
    assert shown.args == ["charging.resistor_a"]
    view.table.picked.emit(15.0)
    assert session.project.charging.module.ohm == 15.0
    assert session.project.charging.module.watt == 3.0
    session.edit({"charging.module.watt": 2.0})
    assert "too little" in view.says.text()
    session.edit({"charging.module.watt": 1.0})
    assert "Stop: a resistor of 15 Ω takes 1.18 W" in view.says.text()


def test_a_value_off_the_series_stands_among_its_neighbours(
    view: ResistorsView, session: Session
) -> None:
    session.edit({"charging.module.ohm": 20.0})
    shown = [row.cells[0] for row in view.table.rows_model.rows]
    assert "20 Ω" in shown and len(shown) == 6


def test_what_to_do_by_hand(view: ResistorsView, session: Session) -> None:
    rows = view.hand_table.rows_model.rows
    assert rows[0].cells[:2] == ("9", "charge")
    view.towards.picked.emit(False)
    assert {row.cells[1] for row in view.hand_table.rows_model.rows} == {"discharge"}
    even(session)
    assert view.hand_table.isHidden()
    assert "nothing to do" in view.hand_says.text()


def test_the_bottom_is_balanced_to_the_floor(view: ResistorsView, session: Session) -> None:
    assert "when group 4 is full" in view.bottom_says.text()
    stop, pack = (session.figure(f"charging.bottom_{it}_v") for it in ("stop", "pack"))
    assert stop is not None and pack is not None
    assert stop.number == pytest.approx(4.2)
    # Fourteen groups, of which one alone is full.
    assert 13 * 3.0 < pack.number < 14 * 4.2
    session.edit({"charging.floor_v": 3.1})
    assert "to 3.1 V OCV" in view.bottom_says.text()
