"""Volts typed in a row."""

import pytest

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.as_found.seen_box import GroupVolts, read_volts
from lumvak.ui.stages.as_found.seen_view import SeenView
from tests.ui.as_found.conftest import as_found


@pytest.mark.parametrize(
    "text", ["3.71 3.70 3.69", "3,71; 3,70; 3,69", "3.71,3.70,3.69", "3.71V 3.7 3.69 "]
)
def test_however_they_are_parted(text: str) -> None:
    assert read_volts(text) == ((3.71, 3.7, 3.69), "")


@pytest.mark.parametrize(("text", "why"), [("3.7 full", "group 2"), ("37 3.7", "is no cell")])
def test_what_is_no_row_of_volts_says_where(text: str, why: str) -> None:
    volts, told = read_volts(text)
    assert volts == () and why in told and "accepted" in told


def test_they_are_taken_and_refused_in_the_field(window: Window) -> None:
    view = as_found(window, "seen").views["seen"]
    assert isinstance(view, SeenView)
    field = view.fields["group_v"]
    assert isinstance(field, GroupVolts)
    assert field.edit.text().startswith("3.84 3.84")
    for text in ("3.7 x", "3.7 3.6 3.7"):
        field.edit.setText(text)
        field.edit.setModified(True)
        field.commit()
        assert field.problem.isVisible() == (text == "3.7 x")
    assert window.session.project.as_found.group_v == (3.7, 3.6, 3.7)
    field.edit.setText("")
    field.edit.setModified(True)
    field.commit()
    assert window.session.project.as_found.group_v == ()
