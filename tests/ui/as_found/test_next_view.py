"""What to look at next, in the window."""

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.next_view import NextView
from tests.ui.as_found.conftest import as_found


def test_each_look_with_its_effort(window: Window) -> None:
    stage = as_found(window, "next")
    view = stage.views["next"]
    assert isinstance(view, NextView)
    first = view.looks.rows_model.rows[0].cells
    assert first[0] == "how often it was charged" and first[1] == "a question"
    window.session.edit({"as_found.state": None})
    rows = view.looks.rows_model.rows
    assert rows[0].cells[0].startswith("whether it is swollen")
    assert rows[0].cells[4] == "waits for it" and rows[0].marks == {4: "amber"}
    assert not rows[1].marks
    assert next(it.cells[0] for it in view.efforts.rows_model.rows) == "a question"
    view.looks.picked.emit("cycles")
    assert stage.view.value == "seen"


def test_all_seen_says_so(window: Window) -> None:
    view = as_found(window, "next").views["next"]
    assert isinstance(view, NextView)
    rest = {"cycles": 10.0, "measured_ah": 8.0, "switches": 4, "shunt_mohm": 1.0}
    window.session.edit({f"as_found.{field}": value for field, value in rest.items()})
    assert view.nothing.isVisible() and not view.looks.isVisible()
