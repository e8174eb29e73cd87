"""Time to full: what is said, what is drawn, and a pack that stands over its charger."""

import numpy as np
import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.charging.time_to_full import TimeView
from tests.ui.charging.conftest import Opener, even, settle


@pytest.fixture
def view(open_view: Opener, session: Session) -> TimeView:
    even(session)
    page = open_view("time")
    assert isinstance(page, TimeView)
    return page


def test_hours_band_and_what_ends_it_are_said(view: TimeView) -> None:
    assert view.charge is not None
    assert "ended by the charger’s end current" in view.says.text()
    assert " to " in view.says.text().split(",")[0]
    assert [row.cells[0] for row in view.table.rows_model.rows] == ["bulk", "taper"]
    assert "It costs" in view.more.text()
    hours, volts = view.lines["volts"].getData()
    assert hours[-1] == pytest.approx(view.charge.hours)
    assert np.all(np.diff(volts) > -0.05)
    assert all(plot.accessibleName() for plot in view.plots.values())


def test_fields_change_the_charge(view: TimeView, session: Session, qtbot: QtBot) -> None:
    assert view.charge is not None
    long = view.charge.hours
    session.edit({"charging.start": 0.7, "charging.tariff": None})
    settle(view, qtbot)
    assert view.charge.hours < 0.6 * long
    assert "It costs" not in view.more.text()
    session.edit({"charging.cell_c": -5.0})
    settle(view, qtbot)
    # The board does not begin: nothing is simulated that would not happen.
    assert view.charge is None and view.more.text() == ""
    assert "the BMS does not begin under 0 °C" in view.says.text().replace("The", "the")


def test_a_pack_over_its_charger_is_told_and_nothing_drawn(
    view: TimeView, session: Session, qtbot: QtBot
) -> None:
    session.edit({"need.charger_voltage_v": 40.0})
    assert "nothing flows" in view.says.text()
    assert view.charge is None
    assert view.lines["volts"].getData()[0] is None or not len(view.lines["volts"].getData()[0])
    session.edit({"need.charger_voltage_v": 58.8})
    settle(view, qtbot)
    assert view.charge is not None
    assert "ended by" in view.says.text()


def test_the_first_full_group_is_named_where_the_board_ends_it(
    view: TimeView, session: Session, qtbot: QtBot
) -> None:
    rows = tuple({"share": 0.5 if place != 4 else 0.6} for place in range(14))
    session.edit({"charging.groups": rows})
    settle(view, qtbot)
    assert "Group 5 is full first" in view.more.text()
