"""What was seen, typed and picked."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.seen_box import SeenBox
from lumvak.ui.stages.as_found.seen_view import SeenView
from lumvak.ui.widgets.quantity_field import QuantityField
from tests.ui.as_found.conftest import as_found


@pytest.fixture
def view(window: Window) -> SeenView:
    found = as_found(window, "seen").views["seen"]
    assert isinstance(found, SeenView)
    return found


def pick(view: SeenView, name: str, words: str) -> None:
    box = view.fields[name]
    assert isinstance(box, SeenBox)
    place = box.box.findText(words)
    box.box.setCurrentIndex(place)
    box.box.activated.emit(place)


def test_a_second_strip_doubles_it(window: Window, view: SeenView) -> None:
    assert "16.6 A, set by its series connections" in view.gives.text()
    field = view.fields["strips"]
    assert isinstance(field, QuantityField)
    field.edit.setText("2")
    field.commit()
    assert window.session.project.as_found.strips == 2
    assert "Sold as 40 A: 30 A, set by its connector" in view.gives.text()


def test_what_is_picked_and_taken_back(window: Window, view: SeenView) -> None:
    pick(view, "state", "swollen")
    assert window.session.project.as_found.state == "swollen"
    assert view.verdict.text().startswith("To be recycled")
    pick(view, "state", "not seen")
    assert window.session.project.as_found.state is None
    assert "as long as not all was seen" in view.verdict.text()
    window.session.undo_stack.undo()
    box = view.fields["state"]
    assert isinstance(box, SeenBox) and box.box.currentText() == "swollen"


def test_what_is_not_there_asks_for_nothing_more(view: SeenView) -> None:
    pick(view, "bms", "there is none")
    assert not view.fields["bms_a"].isVisible()
    # Its marks stand against that: they are struck first.
    assert view.session.project.as_found.bms == "none"
    assert view.session.project.as_found.bms_a is None


def test_counts_that_disagree_say_which_is_likely_wrong(view: SeenView) -> None:
    assert view.counted.text().startswith("10 groups, by ")
    view.session.edit({"as_found.tap_wires": 10})
    assert "9 by its balance leads is likely wrong" in view.counted.text()


def test_what_was_seen_becomes_the_design_in_one_step(window: Window, view: SeenView) -> None:
    window.session.edit({"as_found.parallel": 5, "as_found.lead_mm2": 8.4})
    before = window.session.undo_stack.index()
    view.take.click()
    project = window.session.project
    assert (project.pack.parallel, project.leads.area_mm2) == (5, 8.4)
    assert window.session.undo_stack.index() == before + 1
    assert window.session.evaluation.sized.choice.count == "10S5P"


def test_a_project_from_a_need_can_begin_so_after_all(window: Window, view: SeenView) -> None:
    window.session.edit({"as_found.begun": False})
    assert view.begin.isVisible() and not view.body.isVisible()
    view.begin.click()
    assert window.session.project.as_found.begun and view.body.isVisible()
