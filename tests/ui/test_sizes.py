"""Every view at every size and text: nothing cut, nothing over something else, rows in view."""

import pytest
from PyQt6.QtCore import QRect
from PyQt6.QtWidgets import QLabel

from lumvak.ui.shell.window import Window
from lumvak.ui.widgets.pages import StageHead
from tests.length import LONG, so_many
from tests.sizes import SIZES, faults_in_views, faults_of, settled, turns_of, views_of


@pytest.mark.parametrize("percent", [150, 125][: so_many(1, 2)])
def test_larger_text_fits_every_size(window: Window, percent: int) -> None:
    window.set_text(percent)
    # It is tightest where there is least room.
    for size in SIZES if LONG else SIZES[-1:]:
        window.resize(*size)
        settled()
        assert not faults_in_views(window), size


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
        for turn in turns_of(window, stage, so_many(6, 1)):
            settled()
            tried += 1
            found += [f"{stage}/{view}, {turn}: {fault}" for fault in faults_of(window)]
    assert tried > so_many(15, 60)
    assert not found


def test_what_is_wrong_is_found(window: Window) -> None:
    window.open_stage("cells")
    settled()
    assert not faults_of(window)
    head = window.stages["cells"].findChildren(StageHead)[0]
    title = head.title
    rect = title.geometry()
    title.setGeometry(QRect(rect.x(), rect.y(), 40, rect.height()))
    assert any(fault.startswith("cut: Label") for fault in faults_of(window))
    title.setGeometry(rect.translated(400, 0))
    assert any(fault.startswith("over each other") for fault in faults_of(window))
    title.setGeometry(rect.translated(-100, 0))
    assert any(fault.startswith("outside") for fault in faults_of(window))
    title.setGeometry(rect)
    lost = QLabel("one", head)
    lost.move(rect.topLeft())
    lost.show()
    assert any("'one'" in fault for fault in faults_of(window))
