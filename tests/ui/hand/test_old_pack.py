"""An old pack: groups typed and pasted, what they carry drawn, cells dealt beside it."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.core.document.hand import OldGroup
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.answer import hand_answer
from lumvak.ui.stages.hand.old_pack import OldPackView, pasted
from tests.ui.conftest import forget
from tests.ui.hand.conftest import groups_of, view_of

ROWS = "\n".join(f"{7.6 + 0.02 * place:.2f}\t19\t3.62" for place in range(12))


@pytest.fixture
def old(roller: Window) -> OldPackView:
    view = view_of(roller, "beside")
    assert isinstance(view, OldPackView)
    return view


def test_groups_are_typed_by_keys_and_pasted(
    qtbot: QtBot, roller: Window, old: OldPackView
) -> None:
    assert old.nothing.isVisible()
    assert not old.both.isVisible()
    assert "keep 80 %" in old.nothing.accessibleName()
    old.begin.click()
    assert old.both.isVisible()
    assert len(roller.session.project.hand.old.groups) == 12
    assert QApplication.focusWidget() is old.grid.table
    qtbot.keyClick(old.grid.table, "7")
    line = old.grid.table.findChild(QLineEdit)
    assert line is not None
    qtbot.keyClicks(line, ".7")
    qtbot.keyClick(line, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: roller.session.project.hand.old.groups[0].ah == 7.7)
    assert old.grid.table.currentRow() == 1
    assert "What was not measured is the sheet's" in old.says.text()
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("7,6;much;3.62")
    old.grid.paste()
    assert "much" in old.grid.problem.text()
    assert roller.session.project.hand.old.groups[0].ah == 7.7
    clipboard.setText(ROWS)
    old.grid.paste()
    groups = roller.session.project.hand.old.groups
    assert [group.ah for group in groups] == pytest.approx([7.6 + 0.02 * at for at in range(12)])
    assert {group.volts for group in groups} == {3.62}
    assert "What was not measured" not in old.says.text()
    assert old.parallel.edit.placeholderText() == "3"
    roller.session.undo_stack.undo()
    assert roller.session.project.hand.old.groups[0].ah == 7.7
    old.drop.click()
    assert old.nothing.isVisible()
    forget(roller)


def test_rows_are_read_as_people_write_them() -> None:
    rows = pasted("7.6 Ah;19;3.62\n\n7600 mAh\t0.019 Ω")
    assert [row["ah"] for row in rows] == pytest.approx([7.6, 7.6])
    assert [row["mohm"] for row in rows] == pytest.approx([19.0, 19.0])
    assert [row["volts"] for row in rows] == [3.62, None]


def test_what_both_carry_is_drawn_and_cells_are_dealt_beside_it(
    qtbot: QtBot, roller: Window, old: OldPackView
) -> None:
    session = roller.session
    session.edit({"hand.old.groups": tuple(pasted(ROWS)), "hand.old.parallel": 3})
    old.grid.table.setCurrentCell(4, 1)
    assert old.pair == 4
    told = old.plot.told()
    first = float(told.rows[0][1].split()[0])
    share = session.evaluation.beside.shares[0][4]
    assert first == pytest.approx(
        share * session.evaluation.sized.pack.current.number / 3, rel=0.01
    )
    cells = [old.grid.table.item(4, column) for column in range(7)]
    texts = [item.text() for item in cells if item is not None]
    assert texts[0] == "5"
    assert texts[1] == "7.68 Ah"
    assert texts[4] == "25.9 Ah"
    assert texts[5] == f"{100 * share:.0f} %"
    # New cells are not placed yet, so that their voltage is not known.
    assert texts[6] == "—"
    groups = groups_of(roller)
    assert "Each counts with its old group" in groups.says.text()
    groups.deal()
    qtbot.waitUntil(lambda: groups.found is not None, timeout=20_000)
    assert groups.found is not None
    assert [len(group) for group in groups.found.groups] == [7] * 12
    groups.take()
    assert session.evaluation.figures["hand.old.spread"].number < 2e-4
    assert hand_answer(session.evaluation).startswith("84 placed, ")
    assert hand_answer(session.evaluation) != "84 placed, 2.8 % apart"
    # An old pack of another count stops, and says so where it is typed.
    session.edit({"hand.old.groups": session.project.hand.old.groups[:11]})
    roller.open_stage("hand")
    roller.margin.findings.cured.emit("hand.old.groups")
    assert old.isVisible()
    assert "has 11 groups" in old.says.text()
    forget(roller)


def test_the_links_and_the_room_are_told(roller: Window, old: OldPackView) -> None:
    roller.session.edit({"hand.old.groups": tuple(OldGroup(ah=7.7, mohm=19.0) for _ in range(12))})
    assert "links join both: the two at the ends carry up to" in old.says.text()
    assert "mm beside the old" in old.says.text()
    assert roller.session.figure("hand.old.link_strips") is not None
