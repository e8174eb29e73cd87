import pytest
from PyQt6.QtGui import QFontMetrics
from PyQt6.QtWidgets import QApplication

from lumvak.ui.widgets.measured import elided, text_width, wrapped_height
from lumvak.ui.widgets.theme import THEME


def test_widths_are_those_of_the_font_at_every_text_size(
    qapp: QApplication, monkeypatch: pytest.MonkeyPatch
) -> None:
    widths = []
    for percent in (100, 150):
        monkeypatch.setattr(THEME, "percent", percent)
        own = QFontMetrics(THEME.font("table", strong=True, table=True))
        assert text_width("21.4 A", "table", strong=True, table=True) == own.horizontalAdvance(
            "21.4 A"
        )
        widths.append(text_width("21.4 A", "table", strong=True, table=True))
    assert widths[1] > widths[0]


def test_what_fits_is_left_whole_and_what_does_not_ends_in_dots(qapp: QApplication) -> None:
    text = "nickel 0.15 × 8, one layer"
    wide = text_width(text, "table")
    assert elided(text, wide, "table") == text
    short = elided(text, wide // 2, "table")
    assert short.endswith("…")
    assert text_width(short, "table") <= wide // 2


def test_a_text_in_half_the_width_is_at_least_twice_as_high(qapp: QApplication) -> None:
    text = "The cells near the take-off give more than the far ones. " * 4
    wide = text_width(text, "note")
    line = wrapped_height(text, wide + 10, "note")
    assert wrapped_height(text, wide // 2, "note") >= 2 * line
