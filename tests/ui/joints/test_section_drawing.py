"""The joint from above: it says what it shows, and shows what would burst."""

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtGui import QColor
from pytestqt.qtbot import QtBot

from lumvak.core.joints.candidates import ROLE_NOUNS
from lumvak.core.spelling import spoken
from lumvak.ui.session import Session
from lumvak.ui.shell.window import Window
from lumvak.ui.stages.joints.section_drawing import JointDrawing
from lumvak.ui.widgets.theme import THEME
from tests.conftest import BARROW
from tests.dots import dots


def nearest(drawing: JointDrawing, colour: str) -> int:
    """How far the nearest pixel is from a colour, in the channel that differs most."""
    pixels = dots(drawing.grab().toImage()).reshape(-1, 4)[:, 2::-1].astype(int)
    wanted = QColor(colour)
    away = np.abs(pixels - [wanted.red(), wanted.green(), wanted.blue()])
    return int(away.max(axis=1).min())


@pytest.fixture
def demo() -> Path:
    return BARROW


@pytest.fixture
def drawing(qtbot: QtBot, window: Window) -> JointDrawing:
    made = JointDrawing()
    qtbot.addWidget(made)
    made.resize(400, 260)
    return made


@pytest.mark.parametrize("role", ["series", "group"])
def test_a_joint_is_drawn_to_scale_and_named(
    drawing: JointDrawing, session: Session, role: str
) -> None:
    evaluation = session.evaluation
    result = getattr(evaluation.laid_out, role)
    drawing.show_result(result, 1.0, "end", "temperature")
    chosen = result.chosen
    assert (
        drawing.accessibleName() == f"{ROLE_NOUNS[role]} of {chosen.strips} × {spoken(chosen.name)}"
    )
    line = (
        THEME.colours.copper
        if chosen.carries(result.setting, "temperature")
        else THEME.colours.crimson
    )
    assert nearest(drawing, line) < 24


def test_a_joint_that_does_not_carry_is_outlined_in_crimson(
    drawing: JointDrawing, session: Session
) -> None:
    # The demo's series strip is too thin for its current.
    thin = session.evaluation.laid_out.series
    assert not thin.chosen.carries(thin.setting, "temperature")
    drawing.show_result(thin, 1.0, "end", "temperature")
    burst = nearest(drawing, THEME.colours.crimson)
    session.edit({"joints.series.part": None, "joints.series.layers": None})
    good = session.evaluation.laid_out.series
    assert good.chosen.carries(good.setting, "temperature")
    drawing.show_result(good, 1.0, "end", "temperature")
    assert burst < 24 < nearest(drawing, THEME.colours.crimson)
