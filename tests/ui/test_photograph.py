"""Photographs shown small."""

from pathlib import Path

from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from lumvak.ui.photograph import SHOWN, show_small, small_picture
from lumvak.ui.widgets.theme import THEME


def test_a_picture_is_read_at_the_height_at_which_it_is_shown(qtbot: QtBot, tmp_path: Path) -> None:
    large = tmp_path / "large.png"
    assert QPixmap(1200, 800).toImage().save(str(large))
    picture = small_picture(large)
    assert picture.height() == 2 * THEME.px(SHOWN)
    assert picture.width() == round(1.5 * picture.height())
    button = QPushButton()
    qtbot.addWidget(button)
    assert show_small(button, picture, "large.png") and "large.png" in button.toolTip()


def test_what_is_no_picture_is_not_shown(qtbot: QtBot, tmp_path: Path) -> None:
    words = tmp_path / "words.png"
    words.write_text("none")
    button = QPushButton()
    qtbot.addWidget(button)
    for path in (None, words, tmp_path / "gone.png"):
        assert not show_small(button, small_picture(path), "x")
