"""The conversion of a tool in the window: its steps lead to their stages."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QPushButton

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.record.conversion_view import ConversionView
from tests.conftest import TRIMMER


@pytest.fixture
def demo() -> Path:
    return TRIMMER


def test_from_the_need_to_the_thread_and_on_to_a_stage(window: Window) -> None:
    window.open_stage("need")
    button = next(
        it for it in window.stages["need"].findChildren(QPushButton) if "step by step" in it.text()
    )
    assert button.isVisible()
    button.click()
    assert window.stage == "record"
    view = window.stages["record"].findChild(ConversionView)
    assert view is not None and view.isVisible() and not view.waits.isVisible()
    rows = {row.cells[0]: row.cells for row in view.rows.rows_model.rows}
    assert rows["capacity"][1:] == ("1.7 Ah", "7.5 Ah", "× 4.41")
    view.rows.picked.emit("old.pack_capacity_ah_ratio")
    assert window.session.explained_key == "old.pack_capacity_ah_ratio"
    steps = view.steps.rows_model.rows
    assert steps[-1].cells[:2] == ("its charger", "stop")
    view.steps.picked.emit("charging:6")
    assert window.stage == "charging"


def test_another_kind_of_project_says_what_it_is_for(window: Window) -> None:
    window.session.edit({"need.kind": "vehicle"})
    window.open_stage("record")
    window.stages["record"].show_view("conversion")
    view = window.stages["record"].findChild(ConversionView)
    assert view is not None and view.waits.isVisible() and not view.steps.isVisible()
