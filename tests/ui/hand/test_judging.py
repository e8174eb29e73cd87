"""Cells chosen on the plot and in the table, and overruled."""

from pytestqt.qtbot import QtBot

from lumvak.core.spelling import spoken
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.hand.judging import JudgingView
from tests.ui.conftest import forget
from tests.ui.hand.conftest import view_of


def test_cells_are_chosen_on_the_plot_and_overruled_with_a_note(
    qtbot: QtBot, roller: Window
) -> None:
    view = view_of(roller, "judge")
    assert isinstance(view, JudgingView)
    assert "4 of 90 rejected" in view.about
    assert not view.buttons["keep"].isEnabled()
    view.plot.picked.emit(frozenset({58}))
    assert "62 % of the sheet" in view.says.text()
    assert view.table.rows_model.rows[view.table.chosen_row()].value == 58
    view.why.setText("read at twice the current")
    view.buttons["keep"].click()
    judged = roller.session.evaluation.sized.in_hand.judged
    assert judged[58].state == "look"
    assert "read at twice the current" in spoken(judged[58].said)
    # A rectangle around all of them rejects all; undo takes it back.
    everyone = frozenset(item.cell.number for item in judged.values())
    view.plot.picked.emit(everyone)
    assert "cells are chosen" in view.says.text()
    view.buttons["reject"].click()
    assert not roller.session.evaluation.sized.in_hand.good
    roller.session.undo_stack.undo()
    assert len(roller.session.evaluation.sized.in_hand.good) == 87
    forget(roller)
