"""Figures: computed values that carry the rule, the source and the inputs that made them."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from typing import Any, Literal, Protocol

import numpy as np
from msgspec import Struct

from lumvak.core.document.edit import default_value
from lumvak.core.said import Text, in_line, listed, phrase
from lumvak.core.spelling import spoken

Origin = Literal["typed", "default", "sheet", "measured", "assumed", "constant", "computed"]
Value = float | int | Text | None
# One thing that stands in a template, or several.
Told = Text | int | tuple[Text | int, ...]
Keyed = str | int | tuple[str | int, ...]
# The name of a part that stands for all that lie in its windows, where no other serves.
AS_SPECIFIED = "as specified"
ORIGIN_WORDS: dict[Origin, str] = {
    "typed": "typed",
    "default": "default",
    "sheet": "data sheet",
    "measured": "measured",
    "assumed": "assumed",
    "computed": "worked out",
    "constant": "constant",
}


class Figure(Struct, frozen=True):
    """One value a person sees.

    ``key`` is stable and dotted; ``rule`` is the formula in words or symbols; ``source`` points
    into docs/methods.md; ``inputs`` are the Figures that went in; ``origin`` says where a value
    without inputs comes from.
    """

    key: str
    label: Text
    value: Value
    unit: str
    rule: Text
    source: Text
    inputs: tuple[Figure, ...] = ()
    origin: Origin = "computed"

    @property
    def assumed(self) -> bool:
        """True where this value, or any value it was made from, was assumed.

        What the builder typed or picked is a decision, whatever was known when it was taken.
        """
        if self.origin in ("typed", "default"):
            return False
        return self.origin == "assumed" or any(part.assumed for part in self.inputs)

    @property
    def number(self) -> float:
        """The value as a float; raises TypeError where it is text or missing."""
        if not isinstance(self.value, float | int | np.number):
            raise TypeError(f"{self.key} is not a number")
        return float(self.value)

    @property
    def at_most(self) -> float:
        """The value as a float, infinite where there is no limit."""
        return math.inf if self.value is None else self.number


def _several(told: Told) -> tuple[Any, ...]:
    return told if isinstance(told, tuple) else (told,)


def _filled(template: str, told: Told) -> Text:
    return phrase(template, *_several(told)) if told != () else template


def typed(key: str, label: Text, value: Value, unit: str, stored: object = None) -> Figure:
    """A value of the project; ``key`` is its path there. One never changed is a default.

    ``stored`` is what the project holds where ``value`` spells it in words.
    """
    if (value if stored is None else stored) == default_value(key):
        return Figure(key, label, value, unit, "not changed", "the project", origin="default")
    return Figure(key, label, value, unit, "as entered", "the project", origin="typed")


def assumed(
    key: str, label: Text, value: Value, unit: str, rule: Text, source: Text, *inputs: Figure
) -> Figure:
    """A value that nobody gave; ``rule`` says what it was taken from."""
    return Figure(
        key,
        label,
        value=value,
        unit=unit,
        rule=rule,
        source=source,
        inputs=inputs,
        origin="assumed",
    )


def sheet(key: str, label: Text, value: Value, unit: str, part: Text) -> Figure:
    """A value from the data of the part named ``part``; of one as specified it is assumed."""
    if part == AS_SPECIFIED:
        return assumed(key, label, value, unit, "the tight side of its window", "methods 41")
    return Figure(
        key, label, value, unit, phrase("data of {}", part), "the part's data", origin="sheet"
    )


class OfPart(Protocol):
    """A part that says which of its figures are guessed."""

    @property
    def name(self) -> str:
        """What it is called."""

    @property
    def guessed(self) -> tuple[str, ...]:
        """Its fields that no sheet gave."""


def of_part(
    key: str, label: Text, part: OfPart, field: str, unit: str, value: float | None = None
) -> Figure:
    """The ``field`` of a part as a figure, or a ``value`` from it; assumed where it was guessed."""
    value = getattr(part, field) if value is None else value
    if field in part.guessed:
        return assumed(key, label, value, unit, phrase("guessed for {}", part.name), "methods 41")
    return sheet(key, label, value, unit, part.name)


def constant(key: str, label: Text, value: Value, unit: str, rule: Text, source: Text) -> Figure:
    """A physical constant or a setting of a method."""
    return Figure(key, label, value, unit, rule, source, origin="constant")


def computed(
    key: str, label: Text, value: Value, unit: str, rule: Text, source: Text, *inputs: Figure
) -> Figure:
    """A value made from ``inputs`` by ``rule``."""
    return Figure(key, label, value=value, unit=unit, rule=rule, source=source, inputs=inputs)


class Rule(Struct, frozen=True):
    """How a figure comes about, but for its value: described once, in a table of its module.

    ``key`` is stable and dotted; ``rule`` is the formula in words or symbols; ``source`` points
    into docs/methods.md. ``{}`` in key, label or rule stand for what is told when one is made,
    one thing or several.
    """

    key: str
    label: str
    unit: str
    rule: str
    source: str

    def of(
        self,
        value: Value,
        *inputs: Figure,
        origin: Origin = "computed",
        key: Keyed = (),
        label: Told = (),
        rule: Told = (),
    ) -> Figure:
        """The figure of a ``value`` made from ``inputs``."""
        return Figure(
            self.key.format(*_several(key)),
            _filled(self.label, label),
            value=value,
            unit=self.unit,
            rule=_filled(self.rule, rule),
            source=self.source,
            inputs=inputs,
            origin=origin,
        )

    def assumed(
        self,
        value: Value,
        *inputs: Figure,
        key: Keyed = (),
        label: Told = (),
        rule: Told = (),
    ) -> Figure:
        """The figure of a ``value`` that nobody gave; its rule says what it was taken from."""
        return self.of(value, *inputs, origin="assumed", key=key, label=label, rule=rule)

    def said_or(
        self,
        said: Value,
        otherwise: Value,
        *inputs: Figure,
        origin: Origin = "assumed",
        key: Keyed = (),
        label: Told = (),
        rule: Told = (),
    ) -> Figure:
        """What the builder ``said``; where that is ``None``, ``otherwise`` by the rule.

        That is assumed, or of another ``origin``: what is recommended is computed.
        """
        made = self.of(otherwise, *inputs, origin=origin, key=key, label=label, rule=rule)
        return made if said is None else typed(made.key, made.label, said, self.unit)


def walk(roots: Iterable[Figure]) -> Iterator[Figure]:
    """Every figure under ``roots``, each key once, inputs after the figure they explain."""
    seen: set[str] = set()
    stack = list(roots)[::-1]
    while stack:
        figure = stack.pop()
        if figure.key in seen:
            continue
        seen.add(figure.key)
        yield figure
        stack.extend(reversed(figure.inputs))


def as_json(figure: Figure) -> Mapping[str, Any]:
    """A figure as plain JSON; its inputs by key."""
    value = figure.value
    return {
        "label": spoken(figure.label),
        "value": value if isinstance(value, float | int | None) else spoken(value),
        "unit": figure.unit,
        "rule": spoken(figure.rule),
        "source": spoken(figure.source),
        "origin": figure.origin,
        "assumed": figure.assumed,
        "inputs": [part.key for part in figure.inputs],
    }


def product(key: str, label: Text, unit: str, *parts: Figure) -> Figure:
    """The product of figures as a figure; float noise past the ninth decimal is dropped."""
    value = round(float(np.prod([part.number for part in parts])), 9)
    rule = listed((in_line(part.label) for part in parts), " × ")
    return computed(key, label, value, unit, rule, "methods 6", *parts)
