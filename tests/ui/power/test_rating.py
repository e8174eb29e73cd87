"""Upgrades of the path."""

from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.speech import say_fixed
from lumvak.ui.stages.power.rating import RatingView
from tests.ui.power.test_stage import power_of
from tests.ui.test_walk import click_row, row_of


def test_an_upgrade_is_taken_with_a_click(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("rating")
    view = stage.views["rating"]
    assert isinstance(view, RatingView)
    carried = window.session.evaluation.path.links
    least = min(link.continuous_a for link in carried)
    assert view.labels[0].said == f"{say_fixed(least, 'A')}, series connections"
    click_row(qtbot, view.steps, view.steps.rows_model.index(1, 0))
    assert window.session.explained_key.startswith("rating.with.fuse.")
    click_row(qtbot, view.steps, view.steps.rows_model.index(0, 0))
    assert window.session.project.joints.series.part == "nickel-0.1x5"
    view.take.click()
    assert window.session.evaluation.path.weakest is not None
    assert window.session.evaluation.path.weakest.continuous_a > 22.0
    click_row(qtbot, view.links, row_of(view.links, "fuse"))
    assert window.session.explained_key == "power.fuse_hold_a"
