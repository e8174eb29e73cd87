"""Colours that can be read, and sizes of text."""

import pytest
from PyQt6.QtCore import Qt

from lumvak.ui.widgets.theme import TEXT_SIZES, THEME, SheetName, next_text_size, sheet_of


def luminance(name: str) -> float:
    """Relative luminance of a colour of the sheet (WCAG 2, 1.4.3)."""
    colour = THEME.colour(name)
    parts = []
    for value in (colour.redF(), colour.greenF(), colour.blueF()):
        parts.append(value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4)
    red, green, blue = parts
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours of the sheet (WCAG 2, 1.4.3)."""
    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize(("sheet", "least"), [("light", 4.5), ("dark", 4.5), ("contrast", 7.0)])
@pytest.mark.parametrize("role", ["ink", "soft", "crimson", "amber", "verdigris"])
def test_words_can_be_read_on_the_paper_of_every_sheet(
    sheet: SheetName, least: float, role: str
) -> None:
    before = THEME.name
    THEME.name = sheet
    try:
        assert contrast(role, "paper") >= least
        assert contrast(role, "sheet") >= least
    finally:
        THEME.name = before


def test_high_contrast_has_lines_to_be_seen() -> None:
    before = THEME.name
    THEME.name = "contrast"
    try:
        assert contrast("line", "paper") >= 3.0
        assert contrast("rule", "sheet") >= 3.0
        assert contrast("ink", "tint") >= 7.0
    finally:
        THEME.name = before


class Access:
    def __init__(self, high: bool) -> None:
        self.high = high

    def contrastPreference(self) -> Qt.ContrastPreference:
        preference = Qt.ContrastPreference
        return preference.HighContrast if self.high else preference.NoPreference


class Hints:
    """A desktop as its hints tell of it."""

    def __init__(self, scheme: Qt.ColorScheme, high: bool) -> None:
        self.scheme, self.high = scheme, high

    def accessibility(self) -> Access:
        return Access(self.high)

    def colorScheme(self) -> Qt.ColorScheme:
        return self.scheme


@pytest.mark.parametrize(
    ("preferred", "scheme", "high", "sheet"),
    [
        ("", Qt.ColorScheme.Unknown, False, "light"),
        ("", Qt.ColorScheme.Light, False, "light"),
        ("", Qt.ColorScheme.Dark, False, "dark"),
        ("", Qt.ColorScheme.Dark, True, "contrast"),
        ("light", Qt.ColorScheme.Dark, True, "light"),
        ("contrast", Qt.ColorScheme.Dark, False, "contrast"),
    ],
)
def test_the_sheet_is_the_desktops_until_one_is_preferred(
    preferred: str, scheme: Qt.ColorScheme, high: bool, sheet: str
) -> None:
    assert sheet_of(preferred, Hints(scheme, high)) == sheet  # type: ignore[arg-type]


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
