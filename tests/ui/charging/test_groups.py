"""Groups: levels, means of evening out, cycles, and what is typed."""

import pytest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.session import Session
from lumvak.ui.stages.charging.groups import ChargeGroupsView
from tests.ui.charging.conftest import Opener, even, settle


@pytest.fixture
def view(open_view: Opener, session: Session) -> ChargeGroupsView:
    even(session)
    page = open_view("groups")
    assert isinstance(page, ChargeGroupsView)
    return page


def test_a_level_brought_down_is_out_of_step(
    view: ChargeGroupsView, session: Session, qtbot: QtBot
) -> None:
    assert "Nothing is lost that counts" in view.says.text()
    assert view.labels[1].said == "0 Ah"
    assert "they are balanced" in view.evens.text()
    for group in range(1, 15):
        view.level(group, 0.5)
    view.vessels.levelled.emit(3, 0.44)
    settle(view, qtbot)
    assert session.project.charging.groups[2].share == 0.44
    assert "out of balance" in view.says.text()
    assert "group 3 is empty" in view.says.text()
    settle(view, qtbot)
    assert "bleeds 0.06 A over 4.18 V" in view.evens.text()
    days = session.evaluation.charging.balancing.days
    assert days is not None and "As the pack is used they are balanced over" in view.evens.text()
    session.edit({"charging.stays_h": 8.0})
    sooner = session.evaluation.charging.balancing.days
    assert sooner is not None and sooner < days / 3.0
    assert "cycles" in view.after.text()
    session.undo_stack.undo()
    session.undo_stack.undo()
    assert session.project.charging.groups[2].share == 0.5


def test_a_level_is_followed_while_it_is_dragged(
    view: ChargeGroupsView, session: Session, qtbot: QtBot
) -> None:
    before = session.project
    view.vessels.levelling.emit(5, 0.15)
    assert session.project is before
    assert "group 5 is empty" in view.says.text()
    assert view.labels[2].said != "0 Ah"
    settle(view, qtbot)
    view.vessels.levelled.emit(5, 0.15)
    settle(view, qtbot)
    assert session.project.charging.groups[4].share == 0.15


def test_means_of_evening_out(view: ChargeGroupsView, session: Session, qtbot: QtBot) -> None:
    rows = tuple({"share": 0.5 if place else 0.44} for place in range(14))
    session.edit({"charging.groups": rows})
    view.by.picked.emit("none")
    assert "Nothing balances them" in view.evens.text()
    view.by.picked.emit("module")
    assert "is followed" in view.evens.text()
    settle(view, qtbot)
    assert "Resistors bleed" in view.evens.text()
    view.by.picked.emit("active")
    assert not view.way.isHidden()
    settle(view, qtbot)
    assert "An active balancer puts 0.85 A in" in view.evens.text()
    view.where.picked.emit("bottom")
    assert "must stop at the first full group" in view.evens.text()
    view.where.picked.emit("top")
    view.by.picked.emit("board")
    leaks = tuple({"share": 0.5, "leak_ma": 0.0 if place else 90.0} for place in range(14))
    session.edit({"charging.groups": leaks})
    settle(view, qtbot)
    assert "Stop: group 1 loses" in view.evens.text()
    leaks = tuple({"share": 0.5, "leak_ma": 0.0 if place else 9.0} for place in range(14))
    session.edit({"charging.groups": leaks})
    settle(view, qtbot)
    assert "never balances them" in view.evens.text()
    session.edit({"charging.groups": rows, "need.charger_voltage_v": 56.0})
    settle(view, qtbot)
    assert "no group comes to" in view.evens.text()


def test_groups_are_typed_pasted_and_forgotten(view: ChargeGroupsView, session: Session) -> None:
    item = view.grid.table.item(0, 1)
    assert item is not None
    item.setText("30 Ah")
    assert session.project.charging.groups[0].ah == 30.0
    assert "size typed" in view.grid.records[0]["origin"]
    assert "Group 1 is small" in view.says.text()
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("\n".join(["33;50%;;;"] * 13 + ["33;45%;;2;"]))
    view.paste()
    assert session.project.charging.groups[13].share == 0.45
    assert session.project.charging.groups[13].leak_ma == 2.0
    clipboard.setText("33;much")
    before = session.project
    view.paste()
    assert session.project is before
    view.forget.click()
    assert session.project.charging.groups == ()
    assert not view.forget.isEnabled()


def test_cycles_are_drawn(view: ChargeGroupsView, session: Session, qtbot: QtBot) -> None:
    session.edit({"charging.cycles": 4})
    settle(view, qtbot)
    count, usable = view.line.getData()
    assert list(count) == [1.0, 2.0, 3.0, 4.0]
    assert usable.min() > 25.0
    assert "After 4 cycles" in view.after.text()


def test_what_was_typed_of_more_groups_stays(view: ChargeGroupsView, session: Session) -> None:
    rows = tuple({"share": 0.5} for _ in range(14))
    session.edit({"charging.groups": rows})
    session.edit({"pack.series": 12})
    view.level(3, 0.4)
    item = view.grid.table.item(0, 2)
    assert item is not None
    item.setText("45 %")
    kept = session.project.charging.groups
    assert (len(kept), kept[0].share, kept[2].share, kept[13].share) == (14, 0.45, 0.4, 0.5)
