"""Colours that can be read, and sizes of text."""

import pytest

from lumvak.ui.widgets.theme import TEXT_SIZES, THEME, next_text_size


def luminance(name: str) -> float:
    """Relative luminance of a colour of the sheet (WCAG 2, 1.4.3)."""
    colour = THEME.colour(name)
    parts = []
    for value in (colour.redF(), colour.greenF(), colour.blueF()):
        parts.append(value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4)
    red, green, blue = parts
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


@pytest.mark.parametrize("sheet", ["light", "dark"])
@pytest.mark.parametrize("role", ["ink", "soft", "crimson", "amber", "verdigris"])
def test_words_can_be_read_on_the_paper_of_both_sheets(sheet: str, role: str) -> None:
    before = THEME.name
    THEME.name = sheet
    try:
        high, low = sorted((luminance(role), luminance("paper")), reverse=True)
    finally:
        THEME.name = before
    assert (high + 0.05) / (low + 0.05) >= 4.5


def test_text_goes_through_its_sizes_and_stays_at_the_ends() -> None:
    before = THEME.percent
    try:
        gone = [THEME.percent]
        for step in (1, 1, 1, 1, -1):
            THEME.percent = next_text_size(step)
            gone.append(THEME.percent)
    finally:
        THEME.percent = before
    assert gone == [100, 125, 150, 200, 200, 150]
    assert set(gone) <= set(TEXT_SIZES)
