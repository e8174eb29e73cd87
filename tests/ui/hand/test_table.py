"""Thousands of cells, sorted and looked through."""

import numpy as np
from PyQt6.QtGui import QGuiApplication
from pytestqt.qtbot import QtBot

from lumvak.ui.shell.window import Window
from tests.ui.conftest import forget
from tests.ui.hand.conftest import readings_of


def test_five_thousand_cells_are_looked_through(qtbot: QtBot, window: Window) -> None:
    chance = np.random.default_rng(1)
    rows = [
        f"{place};{chance.normal(3.61, 0.004):.3f};{chance.normal(4.7, 0.05):.3f}"
        for place in range(1, 5001)
    ]
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("number;volts;ah\n" + "\n".join(rows))
    view = readings_of(window)
    view.tables.paste()
    assert len(view.table.shown) == 5000
    view.table.sort_asked.emit(3)
    shown = [item.cell.ah or 0.0 for item in view.table.shown]
    assert shown == sorted(shown)
    view.look.setText("4321")
    assert [item.cell.number for item in view.table.shown] == [4321]
    forget(window)
