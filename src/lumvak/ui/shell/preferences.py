"""What a builder prefers in all projects: units, decimal sign, currency, paper, sheet, text."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial
from typing import Any

from PyQt6.QtCore import QLocale, Qt
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QWidget

from lumvak.core.checked import renewed
from lumvak.core.document.hand import Meter
from lumvak.core.spelling import Spelling
from lumvak.core.units import COUNT, FRACTION, MOST_OF_A_CURRENCY, Kind
from lumvak.files.kept.window_settings import Settings, spelling_of
from lumvak.files.languages import LANGUAGES, language_of, sentences_of
from lumvak.ui.laid_over.over import Over
from lumvak.ui.session import Session
from lumvak.ui.speech import SPEECH, in_words, parse, spell, worded
from lumvak.ui.widgets.choice import ChoiceRow
from lumvak.ui.widgets.entry import EntryField
from lumvak.ui.widgets.flow import scrolled
from lumvak.ui.widgets.theme import TEXT_SIZES, THEME
from lumvak.ui.widgets.words import heading, plain, soft

WIDE, HIGH = 640, 470
METER = (("percent", FRACTION, "of the reading"), ("digits", COUNT, "digits of"),
         ("counts", COUNT, "counts"))  # fmt: skip
US = QLocale.MeasurementSystem.ImperialUSSystem
Words = Sequence[tuple[Any, str]]


def spelled_by(settings: Settings, desktop: QLocale) -> Spelling:
    """How quantities are spelled: as is preferred, else as the language of the desktop has it."""
    return spelling_of(settings, desktop.decimalPoint() == ",", desktop.currencySymbol())


def paper_of(settings: Settings, desktop: QLocale) -> str:
    """The paper of exports: as is preferred, else as is usual where the desktop is."""
    return settings.paper or ("letter" if desktop.measurementSystem() == US else "a4")


def sentences_by(settings: Settings, desktop: QLocale) -> Mapping[str, str]:
    """Sentences of the language that is preferred, else of that of the desktop."""
    return sentences_of(language_of(settings.language, desktop.name()))


def speak_as(settings: Settings) -> None:
    """Have everything said in the language and the spelling preferred, before there is a window."""
    desktop = QLocale.system()
    SPEECH.sentences = sentences_by(settings, desktop)
    SPEECH.spelling = spelled_by(settings, desktop)


def take(settings: Settings, session: Session) -> None:
    """Have everything of a window said as is preferred."""
    desktop = QLocale.system()
    SPEECH.sentences = sentences_by(settings, desktop)
    session.paper, session.sounds = paper_of(settings, desktop), settings.sounds
    session.spell_as(spelled_by(settings, desktop))


def questions(desktop: QLocale) -> Sequence[tuple[str, str, Words]]:
    """The name of each preference that is a choice, its title, and its words."""
    own = Settings()
    return (
        (
            "sheet",
            "Sheet",
            (
                ("", "as the desktop"),
                ("light", "light"),
                ("dark", "dark"),
                ("contrast", "high contrast"),
            ),
        ),
        ("language", "Language", (("", "as the desktop"), *LANGUAGES.items())),
        ("text_percent", "Text", [(size, f"{size} %") for size in TEXT_SIZES]),
        ("lengths", "Lengths", (("mm", "mm and m"), ("in", "inches and feet"))),
        ("temperatures", "Temperatures", (("C", "°C"), ("F", "°F"))),
        ("wires", "Wires", (("awg", "AWG where it is one"), ("mm2", "mm²"))),
        (
            "decimal",
            "Decimal sign",
            (
                ("", worded("as the desktop ({})", desktop.decimalPoint())),
                ("point", "1.5"),
                ("comma", "1,5"),
            ),
        ),
        (
            "paper",
            "Paper",
            (
                ("", worded("as the desktop ({})", paper_of(own, desktop).upper())),
                ("a4", "A4"),
                ("letter", "Letter"),
            ),
        ),
        (
            "sounds",
            "Sound",
            ((False, "none"), (True, "where a reading or a cell is refused")),
        ),
    )


class Preferences(Over):
    """Lies over the window; what is chosen takes effect at once, Escape leaves."""

    def __init__(
        self, over: QWidget, settings: Settings, change: Callable[[str, Any], object]
    ) -> None:
        super().__init__(over, "Preferences", WIDE, HIGH)
        desktop = QLocale.system()
        body = QWidget()
        body.setObjectName("paper")
        rows = QGridLayout(body)
        rows.setContentsMargins(0, 0, THEME.px(8), 0)
        rows.setVerticalSpacing(THEME.px(8))
        rows.setHorizontalSpacing(THEME.px(18))
        rows.setColumnStretch(1, 1)
        self.fields: dict[str, QWidget] = {}
        for name, title, words in questions(desktop):
            choice = ChoiceRow(words, title)
            choice.show_value(getattr(settings, name))
            choice.picked.connect(partial(change, name))
            self._add(rows, name, title, choice)
        self.currency = EntryField(settings.currency)
        self.currency.setAccessibleName(in_words("Currency"))
        self.currency.setPlaceholderText(desktop.currencySymbol() or in_words("none"))
        self.currency.setMaxLength(MOST_OF_A_CURRENCY)
        self.currency.setMaximumWidth(THEME.px(70))
        self.currency.editingFinished.connect(lambda: self._price_in(settings, change))
        self._add(rows, "currency", "Currency of costs", self.currency)
        self._add(rows, "meter", "Voltmeter within ±", self._meter(settings, change))
        rows.setRowStretch(rows.rowCount(), 1)
        self.body.addWidget(heading("Preferences"))
        self.body.addWidget(
            soft(
                "For all projects, kept on this machine: files hold mm and °C whatever is shown. "
                "Differences of temperature stay in kelvin, sections of strips in mm². Escape "
                "leaves.",
                wrap=True,
            )
        )
        self.body.addWidget(scrolled(body), 1)

    def _meter(self, settings: Settings, change: Callable[[str, Any], object]) -> QWidget:
        """How far off the builder's meter may be, for projects begun later."""
        row = QWidget()
        flow = QHBoxLayout(row)
        flow.setContentsMargins(0, 0, 0, 0)
        meter = settings.meter
        for name, kind, words in METER:
            field = EntryField(spell(getattr(meter, name), kind))
            field.setAccessibleName(worded("Voltmeter, {}", words))
            field.setMaximumWidth(THEME.px(76))
            field.editingFinished.connect(
                lambda name=name, kind=kind, field=field: self._take_meter(
                    meter, name, kind, field, change
                )
            )
            flow.addWidget(field)
            flow.addWidget(soft(words))
        row.setFocusProxy(row.findChild(EntryField))
        return row

    def _take_meter(
        self,
        meter: Meter,
        name: str,
        kind: Kind,
        field: EntryField,
        change: Callable[[str, Any], object],
    ) -> None:
        """Take a part of the meter's error; what cannot be is taken back."""
        try:
            value = parse(field.text(), kind)
            fresh = renewed(meter, {name: value})
        except ValueError:
            field.setText(spell(getattr(meter, name), kind))
            return
        if fresh != meter:
            change("meter", fresh)

    def _add(self, rows: QGridLayout, name: str, title: str, field: QWidget) -> None:
        label, row = plain(title), rows.rowCount()
        label.setBuddy(field)
        rows.addWidget(label, row, 0)
        rows.addWidget(field, row, 1, Qt.AlignmentFlag.AlignLeft)
        self.fields[name] = field

    def _price_in(self, settings: Settings, change: Callable[[str, Any], object]) -> None:
        text = self.currency.text().strip()
        if text != settings.currency:
            change("currency", text)

    def ask(self, at: str = "sheet") -> None:
        """Lie over the window, with the focus on a preference."""
        self.lie_over()
        self.fields[at].setFocus(Qt.FocusReason.ShortcutFocusReason)
