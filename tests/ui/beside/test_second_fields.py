"""What is known of the second pack is typed, and what is not is shown as it is taken."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.second_fields import read_more
from lumvak.ui.stages.beside.together_view import TogetherView
from tests.ui.beside.conftest import beside


def test_what_is_not_said_is_shown_as_it_is_taken(window: Window) -> None:
    view = beside(window, "together").views["together"]
    assert isinstance(view, TogetherView)
    capacity, ohm, series = view.fields.numbers
    assert series.edit.placeholderText() == str(window.session.evaluation.sized.choice.series)
    before = ohm.edit.placeholderText()
    capacity.edit.setText("3 Ah")
    capacity.commit()
    # Less charge is fewer cells in parallel: more resistance.
    assert ohm.edit.placeholderText() != before and ohm.edit.placeholderText().endswith("Ω")
    box = view.fields.by
    box.setCurrentIndex(box.findData("one-at-a-time"))
    box.activated.emit(box.currentIndex())
    assert window.session.project.beside.by == "one-at-a-time"
    kinds = view.fields.chemistry
    kinds.setCurrentIndex(kinds.findData("lfp"))
    kinds.activated.emit(kinds.currentIndex())
    assert window.session.project.beside.chemistry == "lfp"
    assert "different chemistry" in view.refused.text()


@pytest.mark.parametrize(
    ("text", "packs"),
    [("9 Ah", [(9.0, 1.0)]), ("9Ah; 12 Ah @ 80 %", [(9.0, 1.0), (12.0, 0.8)]), ("", [])],
)
def test_more_packs_as_they_are_typed(text: str, packs: list[tuple[float, float]]) -> None:
    found, why = read_more(text)
    assert not why and [(it.capacity_ah, it.at) for it in found] == packs


@pytest.mark.parametrize("text", ["nine", "9 Ah @ 300 %", "1 Ah; 2 Ah; 3 Ah"])
def test_what_are_no_packs_says_why(text: str) -> None:
    found, why = read_more(text)
    assert found == () and "accepted" in why


def test_a_third_pack_and_a_charge_port_in_the_window(window: Window) -> None:
    stage = beside(window, "together")
    view = stage.views["together"]
    assert isinstance(view, TogetherView)
    window.session.edit({"beside.capacity_ah": 12.0})
    two_h = view.run.text()
    view.fields.more.setText("10 Ah @ 90 %")
    view.fields.more.setModified(True)
    view.fields.more.editingFinished.emit()
    assert len(window.session.project.beside.more) == 1
    assert view.run.text() != two_h and len(view.chart.curves) == 3
    assert "the third pack onto those before it" in view.joining.text()
    assert any(it.stage == "beside" for it in window.session.beside)
    view.fields.ports[0].picked.emit("charge")
    rows = [row.cells for row in view.table.rows_model.rows]
    assert any("charge port" in it[1] for it in rows)
