"""The pack left alone."""

import pytest
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from lumvak.ui.stages.power.at_rest import RestView
from tests.ui.power.test_stage import codes, power_of
from tests.ui.test_walk import type_into


def test_a_meter_left_on_flattens_the_pack(qtbot: QtBot, window: Window) -> None:
    stage = power_of(window)
    stage.show_view("rest")
    view = stage.views["rest"]
    assert isinstance(view, RestView)
    assert not {"shelf-cuts", "shelf-flat"} & codes(window)
    type_into(qtbot, view, "meter_ma", "20 mA")
    assert "shelf-cuts" in codes(window)
    type_into(qtbot, view, "converter_ma", "0,06 A")
    assert window.session.project.rest.converter_ma == pytest.approx(60.0)
    type_into(qtbot, view, "days", "30")
    assert "shelf-cuts" in codes(window)
    type_into(qtbot, view, "meter_ma", "0")
    type_into(qtbot, view, "converter_ma", "0")
    assert not {"shelf-cuts", "shelf-flat"} & codes(window)
