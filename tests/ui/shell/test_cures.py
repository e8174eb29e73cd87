"""Every finding, and every section of the path, leads to the field or row that changes it."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from lumvak.core.figures.cures import LINKS, cure_of
from lumvak.ui.shell.window import Window
from tests.conftest import DEMOS
from tests.length import LONG

ALL = [*sorted(DEMOS.glob("*.json"))]
SHORT = [path for path in ALL if path.stem.split(".")[0] in ("orchard-barrow", "hedge-trimmer")]


@pytest.fixture(params=ALL if LONG else SHORT, ids=lambda path: path.stem)
def demo(request: pytest.FixtureRequest) -> Path:
    path: Path = request.param
    return path


def names_above(widget: QWidget | None) -> list[str]:
    """Names of a widget and of all that it lies in."""
    found = []
    while widget is not None:
        found.append(widget.objectName())
        widget = widget.parentWidget()
    return found


def test_findings_lead_to_the_field_that_changes_them(window: Window) -> None:
    for finding in window.session.evaluation.findings:
        window.open_stage(finding.stage)
        if path := cure_of(finding):
            window.margin.findings.cured.emit(path)
            focus = QApplication.focusWidget()
            assert path in names_above(focus), (finding.code, path)


def test_sections_of_the_path_lead_to_where_they_are_set(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    for place, link in enumerate(window.session.evaluation.path.links):
        view.setFocus()
        for _ in range(place and 1):
            qtbot.keyClick(view, Qt.Key.Key_Right)
        qtbot.keyClick(view, Qt.Key.Key_Return)
        assert LINKS[link.key] in names_above(QApplication.focusWidget()), link.key
        assert window.session.explained_key == link.limit.key
