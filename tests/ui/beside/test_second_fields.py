"""What is known of the second pack is typed, and what is not is shown as it is taken."""

from lumvak.ui.shell.window import Window
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
