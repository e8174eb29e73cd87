"""The trail: doubted, struck, counted, taken again."""

from lumvak.core.afterwards.in_trouble import DOUBTED
from lumvak.core.document.taps import TapTotal
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.trouble.trail_view import TrailView
from tests.ui.trouble.conftest import trouble


def test_readings_can_be_doubted_struck_and_taken_again(window: Window) -> None:
    view = trouble(window, "trail").views["trail"]
    assert isinstance(view, TrailView)
    rows = [row.cells for row in view.table.rows_model.rows]
    assert len(rows) == 3 and rows[0][0].endswith("jumps") and rows[0][3] == rows[1][2]
    session = window.session
    for button, weight, words in (
        (view.doubt, DOUBTED, "doubted"),
        (view.strike, 0.0, "struck"),
        (view.count, 1.0, "whole"),
    ):
        button.click()
        assert session.project.trouble.readings[0].weight == weight
        assert view.table.rows_model.rows[0].cells[1] == words
    view.table.picked.emit(2)
    view.drop.click()
    assert [it.place for it in session.project.trouble.readings] == ["terminals", "pack"]
    session.undo_stack.undo()
    assert len(session.project.trouble.readings) == 3
    session.edit({"trouble.readings": ()})
    assert view.nothing.isVisible() and not view.table.isVisible()


def test_what_other_stages_have_read_counts_as_doubted(window: Window) -> None:
    view = trouble(window, "trail").views["trail"]
    assert isinstance(view, TrailView) and not view.known.isVisible()
    window.session.edit({"balance_leads.totals": (TapTotal(lead=1, volts=3.7),)})
    assert view.known.isVisible() and "count 1 that" in view.known.text()
    view.known.click()
    last = window.session.project.trouble.readings[-1]
    assert (last.place, last.value, last.weight) == ("tap:1", 3.7, DOUBTED)
    assert not view.known.isVisible()
