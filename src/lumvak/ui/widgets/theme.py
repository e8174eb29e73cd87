"""Every colour, font and size of the window, for each of its sheets."""

from __future__ import annotations

from importlib import resources
from typing import Any, Literal

import numpy as np
from msgspec import Struct
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QPalette, QStyleHints
from PyQt6.QtWidgets import QApplication

SheetName = Literal["light", "dark", "contrast"]
# The OKLab colour space: linear sRGB to cones, cones to lightness and two hues (B. Ottosson, 2020).
RGB_TO_LMS = np.array([
    [0.4122214708, 0.5363325363, 0.0514459929],
    [0.2119034982, 0.6806995451, 0.1073969566],
    [0.0883024619, 0.2817188376, 0.6299787005],
])  # fmt: skip
LMS_TO_LAB = np.array([
    [0.2104542553, 0.7936177850, -0.0040720468],
    [1.9779984951, -2.4285922050, 0.4505937099],
    [0.0259040371, 0.7827717662, -0.8086757660],
])  # fmt: skip
TEXT_FAMILY = "Barlow"
TABLE_FAMILY = "Barlow Semi Condensed"
SIZES = {"title": 22, "section": 17, "stage": 15, "table": 14, "note": 13}


class Colours(Struct, frozen=True):
    """One sheet's colours by role."""

    paper: str
    sheet: str
    line: str
    rule: str
    ink: str
    soft: str
    copper: str
    verdigris: str
    amber: str
    crimson: str
    tint: str
    copper_wash: str
    amber_wash: str
    verdigris_wash: str
    grey_wash: str


LIGHT = Colours(
    paper="#F4EFE4",
    sheet="#FCFAF5",
    line="#DCD4C3",
    rule="#ECE5D6",
    ink="#22303A",
    soft="#5A676F",
    copper="#8C3B1B",
    verdigris="#256D64",
    amber="#8F5A00",
    crimson="#7C1A22",
    tint="#E3EDE7",
    copper_wash="#D9B39E",
    amber_wash="#F0E4CE",
    verdigris_wash="#C4DAD1",
    grey_wash="#DDDBD6",
)
DARK = Colours(
    paper="#191E22",
    sheet="#20272C",
    line="#39434A",
    rule="#2B343A",
    ink="#E9E4D9",
    soft="#9AA6AC",
    copper="#E08C5E",
    verdigris="#66B8AB",
    amber="#F5D07A",
    crimson="#F5A0A2",
    tint="#26393A",
    copper_wash="#6B4A3A",
    amber_wash="#3C3424",
    verdigris_wash="#30534F",
    grey_wash="#3A4044",
)
# Black on white, words at 7 : 1 and more (WCAG 2, 1.4.6), lines at 3 : 1.
CONTRAST = Colours(
    paper="#FFFFFF",
    sheet="#FFFFFF",
    line="#5A5A5A",
    rule="#8C8C8C",
    ink="#000000",
    soft="#333333",
    copper="#742605",
    verdigris="#00504A",
    amber="#7A4C00",
    crimson="#560010",
    tint="#CFE6DF",
    copper_wash="#E8B99D",
    amber_wash="#FFE3AE",
    verdigris_wash="#A9D6C7",
    grey_wash="#CCCCCC",
)
# Ends and middles of the ramps; between them the steps are even to the eye (OKLab).
RAMPS: dict[SheetName, dict[str, tuple[str, ...]]] = {
    "light": {
        "potential": ("#F5EDDB", "#C7DBCB", "#84B7AB"),
        "current": ("#DDD5C5", "#DDA57C", "#B25A30", "#6E1B1F"),
        "over": ("#B9D8CD", "#F4EFE4", "#EBB795"),
    },
    "dark": {
        "potential": ("#2A3238", "#2B4F50", "#2A6C62"),
        "current": ("#4A545A", "#A0623F", "#E79A63", "#FFE3BC"),
        "over": ("#285650", "#2B343A", "#74462E"),
    },
    "contrast": {
        "potential": ("#FFFFFF", "#B5D9CC", "#5FA294"),
        "current": ("#D5D5D5", "#E39A63", "#A8481C", "#55000E"),
        "over": ("#A9D6C7", "#FFFFFF", "#F2B48A"),
    },
}
RAMP_STEPS = 64
SHEETS: dict[SheetName, Colours] = {"light": LIGHT, "dark": DARK, "contrast": CONTRAST}


def sheet_of(preferred: str, hints: QStyleHints | None) -> SheetName:
    """The sheet that is preferred, else the desktop's: in high contrast or dark where it is so."""
    for name in SHEETS:
        if name == preferred:
            return name
    if hints is None:
        return "light"
    access = hints.accessibility()
    if access is not None and access.contrastPreference() == Qt.ContrastPreference.HighContrast:
        return "contrast"
    return "dark" if hints.colorScheme() == Qt.ColorScheme.Dark else "light"


def load_fonts() -> None:
    """Register the shipped fonts with Qt."""
    folder = resources.files("lumvak") / "data" / "fonts"
    for item in sorted(folder.iterdir(), key=lambda entry: entry.name):
        if item.name.endswith(".ttf"):
            QFontDatabase.addApplicationFontFromData(item.read_bytes())


def _even_steps(stops: tuple[str, ...]) -> list[QColor]:
    """RAMP_STEPS colours through ``stops``, even in OKLab."""
    known = np.array([_oklab(QColor(stop)) for stop in stops])
    away = np.concatenate([[0.0], np.linalg.norm(np.diff(known, axis=0), axis=1).cumsum()])
    at = np.linspace(0.0, away[-1], RAMP_STEPS)
    lab = np.stack([np.interp(at, away, known[:, part]) for part in range(3)], axis=1)
    cone = (lab @ np.linalg.inv(LMS_TO_LAB).T) ** 3
    linear = np.clip(cone @ np.linalg.inv(RGB_TO_LMS).T, 0.0, 1.0)
    rgb = np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)
    return [QColor.fromRgbF(*map(float, np.clip(row, 0.0, 1.0))) for row in rgb]


def _oklab(colour: QColor) -> np.ndarray[Any, Any]:
    rgb = np.array([colour.redF(), colour.greenF(), colour.blueF()])
    linear = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    return np.asarray(LMS_TO_LAB @ np.cbrt(RGB_TO_LMS @ linear))


class Theme:
    """The sheet in force and the text scale; widgets ask it for colours, fonts and lengths."""

    def __init__(self) -> None:
        self.name: SheetName = "light"
        self.percent = 100
        self._fonts: dict[tuple[str, bool, bool, int], QFont] = {}
        self._colours: dict[tuple[str, str], QColor] = {}
        self._ramps: dict[tuple[str, str], list[QColor]] = {}

    @property
    def colours(self) -> Colours:
        """The colours of the sheet in force."""
        return SHEETS[self.name]

    def colour(self, role: str) -> QColor:
        """One colour by role; it is shared, so whoever changes it takes a copy."""
        key = (self.name, role)
        if key not in self._colours:
            self._colours[key] = QColor(getattr(self.colours, role))
        return self._colours[key]

    def ramp(self, name: str, share: float) -> QColor:
        """A colour of a ramp by its share of the way, 0 to 1; it is shared like ``colour``."""
        key = (self.name, name)
        if key not in self._ramps:
            self._ramps[key] = _even_steps(RAMPS[self.name][name])
        return self._ramps[key][round(min(max(share, 0.0), 1.0) * (RAMP_STEPS - 1))]

    def px(self, length: float) -> int:
        """A length at 100 % in pixels at the text size in force."""
        return round(length * self.percent / 100.0)

    def font(self, size: str, *, strong: bool = False, table: bool = False) -> QFont:
        """A font with tabular figures; ``size`` is a key of SIZES."""
        key = (size, strong, table, self.percent)
        if key in self._fonts:
            return self._fonts[key]
        font = QFont(TABLE_FAMILY if table else TEXT_FAMILY)
        font.setPixelSize(self.px(SIZES[size]))
        font.setWeight(QFont.Weight.DemiBold if strong else QFont.Weight.Normal)
        font.setFeature(QFont.Tag("tnum"), 1)
        self._fonts[key] = font
        return font

    def palette(self) -> QPalette:
        """The palette of the sheet in force."""
        palette = QPalette()
        roles = {
            QPalette.ColorRole.Window: "paper",
            QPalette.ColorRole.Base: "sheet",
            QPalette.ColorRole.AlternateBase: "sheet",
            QPalette.ColorRole.Button: "paper",
            QPalette.ColorRole.WindowText: "ink",
            QPalette.ColorRole.Text: "ink",
            QPalette.ColorRole.ButtonText: "ink",
            QPalette.ColorRole.PlaceholderText: "soft",
            QPalette.ColorRole.Highlight: "tint",
            QPalette.ColorRole.HighlightedText: "ink",
            QPalette.ColorRole.ToolTipBase: "sheet",
            QPalette.ColorRole.ToolTipText: "ink",
            QPalette.ColorRole.Mid: "line",
            QPalette.ColorRole.Link: "verdigris",
            QPalette.ColorRole.LinkVisited: "verdigris",
        }
        for role, name in roles.items():
            palette.setColor(role, self.colour(name))
        return palette

    def style_sheet(self) -> str:
        """The style of Qt's own widgets."""
        c, px = self.colours, self.px
        return f"""
        * {{ outline: none; }}
        QWidget {{ color: {c.ink}; }}
        QMainWindow, QWidget#paper {{ background: {c.paper}; }}
        QWidget#sheet, QScrollArea#sheet, QWidget#sheetBody {{ background: {c.sheet}; }}
        QScrollArea, QScrollArea > QWidget > QWidget {{ border: none; background: transparent; }}
        QMenuBar {{ background: {c.paper}; border-bottom: 1px solid {c.line}; padding: {px(2)}px; }}
        QMenuBar::item {{ padding: {px(4)}px {px(10)}px; background: transparent; }}
        QMenuBar::item:selected {{ background: {c.tint}; }}
        QMenu {{ background: {c.sheet}; border: 1px solid {c.line}; padding: {px(4)}px 0; }}
        QMenu::item {{ padding: {px(5)}px {px(28)}px {px(5)}px {px(22)}px; }}
        QMenu::item:selected {{ background: {c.tint}; }}
        QMenu::item:disabled {{ color: {c.soft}; }}
        QMenu::separator {{ height: 1px; background: {c.rule}; margin: {px(4)}px 0; }}
        QLineEdit {{ background: {c.sheet}; border: none; border-bottom: 1px solid {c.soft};
            padding: {px(3)}px {px(2)}px; selection-background-color: {c.verdigris};
            selection-color: {c.sheet}; }}
        QLineEdit:focus {{ border-bottom: 2px solid {c.verdigris}; padding-bottom: {px(2)}px; }}
        QLineEdit[bad="true"] {{ border-bottom: 2px solid {c.crimson}; color: {c.crimson};
            padding-bottom: {px(2)}px; }}
        QPushButton {{ background: transparent; border: 1px solid transparent;
            color: {c.verdigris}; padding: {px(2)}px {px(5)}px; text-align: left; }}
        QPushButton:hover, QPushButton:focus {{ background: {c.tint}; }}
        QPushButton:focus, QCheckBox:focus, QTreeView:focus, QGraphicsView:focus {{
            border: 1px solid {c.verdigris}; }}
        QCheckBox, QGraphicsView {{ border: 1px solid transparent; }}
        QPushButton:disabled {{ color: {c.soft}; }}
        QTableView {{ background: {c.sheet}; border: none; gridline-color: {c.rule}; }}
        QHeaderView {{ background: {c.sheet}; border: none; }}
        QHeaderView::section {{ background: {c.sheet}; color: {c.soft}; border: none;
            border-bottom: 1px solid {c.line}; padding: {px(3)}px {px(6)}px;
            font-family: "{TABLE_FAMILY}"; font-size: {px(13)}px; }}
        QProgressBar {{ background: {c.rule}; border: none; border-radius: {px(3)}px; }}
        QProgressBar::chunk {{ background: {c.copper}; border-radius: {px(3)}px; }}
        QComboBox {{ background: {c.sheet}; border: none; border-bottom: 1px solid {c.soft};
            padding: {px(3)}px {px(4)}px; min-height: {px(18)}px; }}
        QComboBox:focus {{ border-bottom: 2px solid {c.verdigris}; }}
        QComboBox::drop-down {{ border: none; width: {px(16)}px; }}
        QComboBox QAbstractItemView {{ background: {c.sheet}; border: 1px solid {c.line};
            selection-background-color: {c.tint}; selection-color: {c.ink}; }}
        QTreeView {{ background: transparent; border: none; }}
        QTreeView::item {{ padding: {px(2)}px 0; }}
        QScrollBar:vertical {{ background: transparent; width: {px(9)}px; margin: 0; }}
        QScrollBar:horizontal {{ background: transparent; height: {px(9)}px; margin: 0; }}
        QScrollBar::handle {{ background: {c.line}; border-radius: {px(3)}px;
            min-height: {px(28)}px; min-width: {px(28)}px; margin: {px(1)}px; }}
        QScrollBar::handle:hover {{ background: {c.soft}; }}
        QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
        QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
        QSplitter::handle {{ background: {c.line}; }}
        QToolTip {{ background: {c.sheet}; color: {c.ink}; border: 1px solid {c.line};
            padding: {px(4)}px; }}
        QTextBrowser {{ background: {c.sheet}; border: none; }}
        QLabel#soft {{ color: {c.soft}; }}
        QLabel#bad {{ color: {c.crimson}; }}
        QLabel#caution {{ color: {c.amber}; }}
        """


THEME = Theme()
TEXT_SIZES = (75, 100, 125, 150, 200)


def next_text_size(step: int) -> int:
    """The next larger or smaller size of text in per cent of the plain one."""
    place = [item >= THEME.percent for item in (*TEXT_SIZES[:-1], THEME.percent)].index(True)
    return TEXT_SIZES[min(max(place + step, 0), len(TEXT_SIZES) - 1)]


def dress(app: QApplication) -> None:
    """Give the application the sheet and text size in force."""
    sheet = THEME.style_sheet()
    # The same again would style every widget anew.
    if app.styleSheet() != sheet:
        app.setFont(THEME.font("table"))
        app.setPalette(THEME.palette())
        app.setStyleSheet(sheet)
