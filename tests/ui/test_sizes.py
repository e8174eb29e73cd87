"""Every view at every size and text: nothing cut, nothing over something else, rows in view."""

import pytest
from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QApplication, QLabel

from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.pages import StageHead
from tests.length import LONG, so_many
from tests.sizes import faults_of, out_of_view, turns_of, views_of

SIZES = ((1280, 800), (1024, 700), (960, 640))


def settled() -> None:
    for _ in range(5):
        QApplication.processEvents()


def faults_in_views(window: Window) -> list[str]:
    found = []
    for stage, view in views_of(window):
        settled()
        found += [f"{stage}/{view}: {fault}" for fault in faults_of(window)]
    return found


def hidden_in_views(window: Window) -> list[str]:
    """Drawings and rows that are out of view, and what scrolls within what scrolls."""
    found = []
    for stage, view in views_of(window):
        settled()
        found += [f"{stage}/{view}: {fault}" for fault in out_of_view(window.stages[stage])]
    return found


@pytest.mark.parametrize("percent", [100, 150, 125][: so_many(2, 3)])
def test_every_view_fits_every_size(window: Window, percent: int) -> None:
    if percent != 100:
        window.set_text(percent)
    # Text that is larger is tightest where there is least room.
    for size in SIZES if percent == 100 or LONG else SIZES[-1:]:
        window.resize(*size)
        settled()
        assert (window.width(), window.height()) == size
        assert not faults_in_views(window), size
    if percent == 100:
        window.resize(*SIZES[0])
        assert not hidden_in_views(window)


def test_the_largest_text_fits_the_usual_size(window: Window) -> None:
    window.set_text(200)
    window.resize(*SIZES[0])
    settled()
    assert not faults_in_views(window)


@pytest.mark.parametrize(
    ("size", "percent"), [((1024, 700), 100), ((960, 640), 150)][so_many(1, 0) :]
)
def test_every_choice_taken_still_fits(window: Window, size: tuple[int, int], percent: int) -> None:
    if percent != 100:
        window.set_text(percent)
    window.resize(*size)
    settled()
    found, tried = [], 0
    for stage, view in views_of(window):
        settled()
        for turn in turns_of(window, stage, so_many(3, 1)):
            settled()
            tried += 1
            found += [f"{stage}/{view}, {turn}: {fault}" for fault in faults_of(window)]
    assert tried > so_many(20, 60)
    assert not found


def test_what_is_wrong_is_found(window: Window) -> None:
    window.open_stage("cells")
    settled()
    assert not faults_of(window)
    head = window.stages["cells"].findChildren(StageHead)[0]
    title = head.title
    rect = title.geometry()
    title.setGeometry(QRect(rect.x(), rect.y(), 40, rect.height()))
    assert any(fault.startswith("cut: QLabel") for fault in faults_of(window))
    title.setGeometry(rect.translated(400, 0))
    assert any(fault.startswith("over each other") for fault in faults_of(window))
    title.setGeometry(rect.translated(-100, 0))
    assert any(fault.startswith("outside") for fault in faults_of(window))
    title.setGeometry(rect)
    lost = QLabel("one", head)
    lost.move(rect.topLeft())
    lost.show()
    assert any("'one'" in fault for fault in faults_of(window))
