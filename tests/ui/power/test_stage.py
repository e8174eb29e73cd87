"""A person's path through the views of the power path."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.parts import PowerPartsView
from lumvak.ui.stages.power.stage import VIEWS, PowerStage


def power_of(window: Window) -> PowerStage:
    window.open_stage("power")
    stage = window.stages["power"]
    assert isinstance(stage, PowerStage)
    return stage


def codes(window: Window) -> set[str]:
    return {item.code for item in window.session.evaluation.findings}


def test_every_view_opens_and_says_what_it_asks(window: Window) -> None:
    stage = power_of(window)
    titles = set()
    for view, _ in VIEWS:
        stage.show_view(view)
        assert stage.pages.currentWidget() is stage.views[view]
        titles.add(stage.head.title.text())
    assert len(titles) == len(VIEWS)


def test_a_click_on_the_path_goes_to_the_part(qtbot: QtBot, window: Window) -> None:
    view = window.path_view
    boxes = view.sections()
    keys = [link.key for link in window.session.evaluation.path.links]
    for key, place in (("fuse", "fuse"), ("leads", "leads"), ("connector", "connector")):
        spot = boxes[keys.index(key)].center().toPoint()
        qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=spot)
        parts = power_of(window).views["parts"]
        assert isinstance(parts, PowerPartsView)
        assert power_of(window).view.value == "parts"
        assert parts.place == place
    assert not any(edit.property("bad") for edit in window.findChildren(QLineEdit))
