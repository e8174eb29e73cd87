"""``lumvak parts``: the catalogue listed, searched, and one part of it whole."""

from __future__ import annotations

import argparse
import operator
import re
from collections.abc import Callable, Sequence
from typing import Any, Literal

from msgspec import to_builtins

from lumvak.cli.command import Refuse, did_you_mean
from lumvak.cli.named import NotKnown, named
from lumvak.cli.parts.at_hand import catalogue_of
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.catalogue.catalogue import PART_KINDS, Catalogue
from lumvak.core.fields import Field, fields_of
from lumvak.core.record import Document
from lumvak.core.spelling import spoken
from lumvak.core.units import BY_UNIT, COUNT, QuantityError, parse

# What of a part is shown where parts of its kind are listed.
SHOWN = {
    "chemistries": ("family",),
    "cells": ("chemistry", "format", "capacity_typical_ah", "continuous_a", "resistance_dc_ohm",
              "mass_g", "price"),
    "conductors": ("material", "form", "thickness_mm", "width_mm", "join", "price_per_m"),
    "boards": ("kind", "family", "series", "continuous_a", "ports", "balance_a", "price"),
    "fuses": ("form", "rating_a", "voltage_dc_v", "breaking_a", "price"),
    "wires": ("area_mm2", "outer_mm", "insulation", "price_per_m"),
    "connectors": ("continuous_a", "voltage_dc_v", "mated_mohm", "price"),
    "switches": ("kind", "continuous_a", "voltage_dc_v", "breaking_a", "price"),
    "surges": ("kind", "ohm", "energy_j", "steady_a", "price"),
    "chargers": ("kind", "volts", "amps", "price"),
    "holders": ("diameter_mm", "rows", "pitch_mm", "price"),
    "instruments": ("idn",),
}  # fmt: skip
CONDITION = re.compile(r"\s*(?P<field>[a-z_0-9]+)\s*(?P<sign>>=|<=|!=|=|>|<|~)\s*(?P<value>.+)")
SIGNS: dict[str, Callable[[Any, Any], bool]] = {
    ">=": operator.ge,
    "<=": operator.le,
    ">": operator.gt,
    "<": operator.lt,
    "=": operator.eq,
    "!=": operator.ne,
    "~": lambda held, wanted: str(wanted).casefold() in str(held).casefold(),
}


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """List kinds of parts, parts of a kind, or one part; 1 where none is found."""
    catalogue = catalogue_of(chosen)
    if catalogue is None:
        return 2
    if chosen.kind is None:
        counts = {kind: len(getattr(catalogue, kind)) for kind in PART_KINDS}
        tell(chosen, counts, lambda: table(("kind", "parts"), _counted(counts)))
        return 0
    try:
        if chosen.kind in PART_KINDS:
            known = getattr(catalogue, chosen.kind)
            if chosen.part is None:
                return _list(chosen, known, refuse)
            part = known[named(chosen.part, known, "part")]
        else:
            part = _of_any_kind(catalogue, chosen.kind)
    except NotKnown as problem:
        complain(chosen.command, problem)
        return 2
    chosen.rows = ""
    document = to_builtins(part)
    if chosen.csv:
        document = [document]
    tell(chosen, document, lambda: _whole(part))
    return 0


def _counted(counts: dict[str, int]) -> list[tuple[str, str]]:
    return [(kind, str(count)) for kind, count in counts.items()]


def _of_any_kind(catalogue: Catalogue, word: str) -> Any:
    """The part that a word names, whatever its kind; raises NotKnown."""
    every = {key: part for kind in PART_KINDS for key, part in getattr(catalogue, kind).items()}
    return every[named(word, {**dict.fromkeys(PART_KINDS), **every}, "kind of parts or part")]


def _list(chosen: argparse.Namespace, known: dict[str, Any], refuse: Refuse) -> int:
    """Parts of a kind that keep to the conditions, as a table."""
    parts = list(known.values())
    kind: type[Document] = type(parts[0])
    fields = fields_of(kind)
    for text in chosen.where:
        try:
            keeps = condition(text, fields)
        except QuantityError as problem:
            refuse(f"--where: {spoken(problem.said)}")
        parts = [part for part in parts if keeps(part)]
    if chosen.find:
        wanted = chosen.find.casefold()
        parts = [it for it in parts if wanted in f"{it.id} {it.name} {_note(it)}".casefold()]
    if chosen.sort:
        if chosen.sort not in fields:
            refuse(f"--sort: no field “{chosen.sort}”{did_you_mean(chosen.sort, fields)}")
        parts.sort(key=lambda it: _order(getattr(it, chosen.sort)))
    shown = SHOWN[chosen.kind]
    rows = [{name: getattr(it, name) for name in ("id", "name", *shown)} for it in parts]
    tell(chosen, {"parts": to_builtins(rows)}, lambda: _table(rows, fields, shown))
    return int(not rows)


def condition(text: str, fields: dict[str, Field]) -> Callable[[Document], bool]:
    """Whether a part keeps to ``capacity_typical_ah>=4``; raises QuantityError."""
    match = CONDITION.fullmatch(text)
    if match is None:
        raise QuantityError(f"“{text[:60]}” is no condition; accepted: such as price<=5")
    name, sign, value = match["field"], match["sign"], match["value"].strip()
    if name not in fields:
        raise QuantityError(f"no field “{name}”{did_you_mean(name, fields)}")
    wanted: Any = value
    accepts = fields[name].accepts
    if accepts.plain in (int, float) and sign != "~":
        kind = COUNT if accepts.plain is int else BY_UNIT.get(fields[name].unit)
        wanted = parse(value, kind) if kind is not None else float(value)

    def keeps(part: Document) -> bool:
        held = getattr(part, name)
        if held is None:
            return False
        return bool(SIGNS[sign](held if wanted is not value else str(held), wanted))

    return keeps


def _order(value: Any) -> tuple[bool, Any]:
    return value is None, value


def _note(part: Any) -> str:
    return str(getattr(part, "note", ""))


def _table(rows: Sequence[dict[str, Any]], fields: dict[str, Field], shown: Sequence[str]) -> str:
    if not rows:
        return "no part is such"
    heads = ("id", "name", *(fields[name].title.lower() or name for name in shown))
    told = [
        (row["id"], row["name"], *(_said(row[name], fields[name]) for name in shown))
        for row in rows
    ]
    texts = [0, 1, *(2 + i for i, it in enumerate(shown) if _is_text(fields[it]))]
    return f"{table(heads, told, left=texts)}\n{len(rows)} parts"


def _is_text(field: Field) -> bool:
    return field.accepts.plain in (str, Literal)


def _said(value: Any, field: Field) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return say(value, field.unit)
    if isinstance(value, tuple):
        return f"{len(value)} given" if value else ""
    return str(value)


def _whole(part: Document) -> str:
    """A part with all that is said of it, a line a field."""
    rows = [
        (name, field.title, said)
        for name, field in fields_of(type(part)).items()
        if (said := _said(getattr(part, name), field))
    ]
    return table(("field", "", "value"), rows, left=(0, 1, 2))
