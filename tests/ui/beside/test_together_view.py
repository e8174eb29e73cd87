"""A second pack as numbers and as a project, in the window."""

from pathlib import Path

import pytest

from lumvak.core.document.edit import with_values
from lumvak.core.put_beside import put_beside
from lumvak.files.project_file import save_project
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.beside.together_view import TogetherView, joining_said, run_said
from tests.ui.beside.conftest import beside


@pytest.fixture
def view(window: Window) -> TogetherView:
    found = beside(window, "together").views["together"]
    assert isinstance(found, TogetherView)
    return found


def test_numbers_make_a_pack_that_is_joined_and_run(window: Window, view: TogetherView) -> None:
    assert view.waits.isVisible() and not view.results.isVisible()
    field = view.fields.numbers[0]
    field.edit.setText("12 Ah")
    field.commit()
    assert view.results.isVisible() and not view.waits.isVisible()
    assert "level, at 100 % and 100 %: nothing flows" in view.joining.text()
    assert "Together" in view.run.text() and "more than the sum" in view.run.text()
    window.session.edit({"beside.at": 0.6})
    assert "NOT AS THEY STAND" in view.joining.text()
    rows = view.table.rows_model.rows
    assert any(row.cells[2] == "joined" and row.marks.get(4) == "crimson" for row in rows)
    assert view.chart.plot.accessibleName().startswith("Amps of each")
    x, _ = view.chart.curves[0].getData()
    found = put_beside(window.session.evaluation)
    assert found is not None and found.course is not None
    assert x[-1] == pytest.approx(found.course.seconds[-1] / 60.0)


def test_another_count_is_refused_in_words(window: Window, view: TogetherView) -> None:
    window.session.edit({"beside.capacity_ah": 12.0, "beside.series": 13})
    assert "without end" in view.refused.text() and not view.results.isVisible()


def test_its_own_project_says_what_it_is(
    window: Window, view: TogetherView, tmp_path: Path
) -> None:
    session = window.session
    other = tmp_path / "second.lumvak.json"
    twin = with_values(session.project, {"name": "Twin"})
    save_project(twin, other, session.catalogue)
    session.edit({"beside.capacity_ah": 3.0})
    view.fields.take_file(other)
    assert session.project.beside.capacity_ah is None
    assert {row.cells[0] for row in view.table.rows_model.rows} == {session.project.name, "Twin"}
    # Two alike share alike.
    found = put_beside(session.evaluation, view.other.side())
    assert found is not None and found.course is not None
    assert found.course.amps[0, 0] == pytest.approx(found.course.amps[0, 1])
    other.write_text("{")
    session.edit({"need.current_a": 21.0})
    assert view.fields.file.text() == view.other.problem != ""
    view.fields.forget.click()
    assert session.project.beside.file == "" and view.waits.isVisible()


def test_what_is_said_of_both(window: Window) -> None:
    window.session.edit({"beside.capacity_ah": 12.0, "beside.by": "diodes"})
    found = put_beside(window.session.evaluation)
    assert found is not None
    assert joining_said(found).startswith("Nothing flows")
    assert "alone" in run_said(found)
