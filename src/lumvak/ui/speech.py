"""How the window spells what is said: one place for all views, as their look has one."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from lumvak.core import said, spelling, units
from lumvak.core.said import Text
from lumvak.core.spelling import PLAIN, Refused, Spelling, TextPlace
from lumvak.core.units import quoted_briefly


class Speech:
    """The spelling and the language in force; whoever shows text asks when the text is shown.

    ``sentences`` are the templates of another language by our own; none for ours.
    """

    spelling: Spelling = PLAIN
    sentences: Mapping[str, str] = {}


SPEECH = Speech()
# Where sentences and words that stand in one text are parted; steps have numbers.
BETWEEN = re.compile(r"((?<=[.?!…]) +|: |; |, | \| |\n|^\d+  |(?<=\n)\d+  )")


def spoken(text: Text | int) -> str:
    """What is said as text."""
    if isinstance(text, str):
        return in_words(text)
    return spelling.spoken(text, SPEECH.spelling, SPEECH.sentences)


def worded(template: str, *values: object) -> str:
    """A sentence of the window's own, a ``template`` with ``{}`` for each of its ``values``."""
    said = [in_words(value) if isinstance(value, str) else value for value in values]
    return in_words(template).format(*said)


def in_words(text: str) -> str:
    """A word or sentence of the window's own in the language in force; anything else as it is."""
    if not SPEECH.sentences:
        return text
    found = SPEECH.sentences.get(text)
    return _pieced(text) if found is None else found


def word_typed(text: str, words: Iterable[str]) -> str | None:
    """Which of ``words`` was typed, in ours or in the language in force; None for any other."""
    typed = text.strip().casefold()
    return next((it for it in words if typed in (it.casefold(), in_words(it).casefold())), None)


def _pieced(text: str) -> str:
    """Several sentences and words in one text, each in the language in force."""
    parts, said, at = BETWEEN.split(text), "", 0
    while at < len(parts):
        # As much as is known as one: a sentence may have more of them within.
        for end in range(len(parts), at, -1):
            ours = "".join(parts[at:end])
            whole = SPEECH.sentences.get(ours)
            if whole is None and ours.endswith("."):
                whole = SPEECH.sentences.get(ours[:-1])
                whole = None if whole is None else f"{whole}."
            if whole is not None:
                break
        said += parts[at] if whole is None else whole
        at = at + 1 if whole is None else end
    return said


def said_of(error: Exception) -> str:
    """What an error says as text."""
    return quoted_briefly(spoken(error.said)) if isinstance(error, Refused) else str(error)


def placed(text: Text) -> tuple[str, tuple[TextPlace, ...]]:
    """What is said as text, and where in it quantities stand."""
    return spelling.placed(text, SPEECH.spelling, SPEECH.sentences)


def say(value: float | int | Text | None, unit: str) -> str:
    """A value with its unit as text."""
    return spoken(said.say(value, unit))


def say_fixed(value: float | int | Text | None, unit: str) -> str:
    """As ``say``, but with zeros kept, so that a number that changes does not jump."""
    if value is None or isinstance(value, float | int):
        return spoken(said.Quantity(value, unit, "fixed"))
    return spoken(value)


def digits(value: float, form: str) -> str:
    """A number in a ``form`` such as ``.2f`` as text."""
    return spoken(said.digits(value, form))


def round_figures(value: float) -> str:
    """A number to about three figures as text."""
    return spelling.figures(value, SPEECH.spelling)


def say_about(seconds: float) -> str:
    """A time in s as text, to two figures."""
    return spoken(said.say_about(seconds))


def say_delay(seconds: float) -> str:
    """A delay in s as text."""
    return spoken(said.say_delay(seconds))


def say_hours(hours: float) -> str:
    """A time in h as text."""
    return spoken(said.say_hours(hours))


def say_span(first_s: float, last_s: float) -> str:
    """From when to when in s, as text."""
    return spoken(said.say_span(first_s, last_s))


def say_sides(sides: Sequence[float], form: str = ".0f") -> str:
    """Sides in mm as text."""
    return spoken(said.say_sides(sides, form))


def shown_in(unit: str) -> str:
    """The unit in which quantities of ``unit`` are said."""
    return spelling.shown_in(unit, SPEECH.spelling)


def shown(value: Any, unit: str) -> Any:
    """A value, or an array of them, of ``unit`` in the unit in which it is said."""
    return spelling.shown(value, unit, SPEECH.spelling)


def gauge_name(area_mm2: float) -> str:
    """The name of a wire section."""
    return spelling.gauge_name(area_mm2, SPEECH.spelling)


def spell(value: float, kind: units.Kind) -> str:
    """A value as it is typed and read back."""
    return units.spell(value, kind, SPEECH.spelling)


def parse(text: str, kind: units.Kind) -> float:
    """Read a quantity that was typed; raises QuantityError, saying what would be accepted."""
    return units.parse(text, kind, SPEECH.spelling)
