"""``lumvak spec``: what to look for in a shop, part by part."""

from __future__ import annotations

import argparse
from collections.abc import Mapping
from functools import partial
from pathlib import Path
from typing import Any

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of, read_evaluation
from lumvak.cli.spelled import say
from lumvak.cli.table import table, tell
from lumvak.core.evaluate import worker
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure
from lumvak.core.joints.candidates import layers_name
from lumvak.core.said import Text, listed, phrase
from lumvak.core.specification.contradictions import Contradiction, contradictions
from lumvak.core.specification.given import HeldPart, held, short_words
from lumvak.core.specification.topic import specification_in_hand
from lumvak.core.specification.window import PART_KEYS, FigureWindow, PartSpec, side_said
from lumvak.core.spelling import spoken
from lumvak.core.units import BY_UNIT, QuantityError, parse

CASE = '{"file": "…", "part": "bms", "check": "bms:series=14,continuous_a=60"}'


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print the windows of a project's parts, or hold a part against them.

    1 where a part falls short or none can be, 2 where something cannot be read.
    """
    if chosen.batch:
        return run_batch(partial(_case, catalogues=chosen.catalogue), CASE)
    if chosen.file is None:
        refuse("a project is wanted")
    evaluation = evaluation_of(chosen)
    if evaluation is None:
        return 2
    if chosen.check:
        return _check(chosen, evaluation, refuse)
    if chosen.part not in (None, *PART_KEYS):
        refuse(f"--part: “{chosen.part}” is no part; accepted: {', '.join(PART_KEYS)}")
    parts = _parts(evaluation, chosen.part)
    against = _contradictions(evaluation)
    document = _spec_json(parts, against)
    if chosen.csv:
        document = {"parts": _spec_rows(parts)}
    tell(chosen, document, lambda: _spec_text(parts, against))
    return int(bool(against))


def _contradictions(evaluation: Evaluation) -> tuple[Contradiction, ...]:
    return contradictions(evaluation, worker(evaluation.sized.parts))


def _parts(evaluation: Evaluation, wanted: str | None) -> list[PartSpec]:
    parts = specification_in_hand(evaluation).parts
    return [part for part in parts if wanted in (None, part.key)]


def _check(chosen: argparse.Namespace, evaluation: Evaluation, refuse: Refuse) -> int:
    try:
        found = checked(chosen.check, evaluation)
    except QuantityError as problem:
        refuse(f"--check: {spoken(problem.said)}")
    chosen.rows = "short"
    tell(chosen, _held_json(found), lambda: _held_text(found))
    return int(not found.does)


def checked(text: str, evaluation: Evaluation) -> HeldPart:
    """A part as it is written, ``bms:series=14,continuous_a=60``, held against its windows.

    Raises QuantityError with what would be read.
    """
    key, colon, rest = text.partition(":")
    specification = specification_in_hand(evaluation)
    spec = next((part for part in specification.parts if part.key == key.strip()), None)
    if spec is None or not colon:
        keys = listed([part.key for part in specification.parts])
        raise QuantityError(phrase("“{}” is no part; accepted: {}", key[:40], keys))
    given = dict(_field(item, spec) for item in rest.split(",") if item.strip())
    return held(spec, given, evaluation)


def _field(text: str, spec: PartSpec) -> tuple[str, float | str]:
    name, equals, value = (word.strip() for word in text.partition("="))
    windows = {window.name: window for window in spec.windows}
    known = {**windows, **({"peak_a": windows["stages"]} if "stages" in windows else {})}
    if name not in known or not equals:
        raise QuantityError(
            phrase("“{}” is no figure of it; accepted: {}", name[:40], listed(list(known)))
        )
    window = known[name]
    if window.one_of and window.least is None and window.most is None:
        return name, value
    if name == "form":
        return name, value
    return name, parse(value, BY_UNIT["Ω" if window.unit == "ohm" else window.unit])


# As text and as JSON.


def _side(figure: Figure | None, window: FigureWindow) -> str:
    return "" if figure is None else spoken(side_said(window, figure.number))


def _row(window: FigureWindow) -> tuple[str, ...]:
    words = ", ".join(window.one_of)
    none = bool(window.case) and window.empty
    return (
        spoken(window.label) + ("" if window.must else " (better so)"),
        "none does"
        if none
        else words or _side(window.least, window) or ("any" if window.open else ""),
        "" if none else _side(window.most, window),
        _side(window.wanted, window),
        spoken(listed([text for text in (window.set_by, window.most_by) if text])),
        spoken(window.reason),
    )


def _spec_text(parts: list[PartSpec], against: tuple[Contradiction, ...]) -> str:
    heads = ("figure", "at least", "at most", "wanted", "set by", "why")
    said = []
    for part in parts:
        many = f", {say(part.quantity, part.unit)}" if part.unit else ""
        name = f"{part.name}{many}{'' if part.needed else ' (need not be there)'}"
        said.append(f"{name}\n{table(heads, [*map(_row, part.windows)], left=(0, 1, 4, 5))}")
    said += [
        f"No {item.part} can {spoken(item.between[0])} and {spoken(item.between[1])}. "
        f"What would open it: {spoken(listed([it.text for it in item.changes], '; '))}."
        for item in against
    ]
    return "\n\n".join(said)


def _number(figure: Figure | None) -> float | None:
    return None if figure is None else figure.number


def window_json(window: FigureWindow) -> dict[str, Any]:
    """A window as plain JSON."""
    return {
        "name": window.name,
        "label": spoken(window.label),
        "unit": window.unit,
        "least": _number(window.least),
        "most": _number(window.most),
        "wanted": _number(window.wanted),
        "one_of": list(window.one_of),
        "at_s": window.at_s,
        "case": window.case or None,
        "set_by": spoken(window.set_by),
        "most_by": spoken(window.most_by or window.set_by) if window.most else None,
        "tight": window.tight,
        "reason": spoken(window.reason),
        "must": window.must,
    }


def part_json(part: PartSpec) -> dict[str, Any]:
    """A part with its windows as plain JSON."""
    return {
        "part": part.key,
        "quantity": part.quantity,
        "unit": part.unit,
        "needed": part.needed,
        "figures": [window_json(window) for window in part.windows],
    }


def _spec_json(parts: list[PartSpec], against: tuple[Contradiction, ...]) -> dict[str, Any]:
    return {
        "parts": [part_json(part) for part in parts],
        "contradictions": [
            {
                "part": item.part,
                "between": [spoken(text) for text in item.between],
                "changes": [
                    {"text": spoken(change.text), "set": change.changes} for change in item.changes
                ],
            }
            for item in against
        ],
    }


def _spec_rows(parts: list[PartSpec]) -> list[dict[str, Any]]:
    """Every window with its part, a line each."""
    return [{"part": part.key, **window_json(it)} for part in parts for it in part.windows]


def _held_json(found: HeldPart) -> dict[str, Any]:
    return {
        "part": found.spec.key,
        "holds": [item.window.name for item in found.holds],
        "short": [
            {
                "name": item.window.name,
                "given": item.value,
                "by": item.short_by,
                "text": spoken(short_words(item)),
            }
            for item in found.short
        ],
        "unknown": [spoken(window.label) for window in found.unknown],
        "then": {"continuous_a": found.then_a, "layers": found.layers},
    }


def _held_text(found: HeldPart) -> str:
    said: list[Text] = [short_words(item) for item in found.short]
    said += [phrase("holds: {}", item.window.label) for item in found.holds]
    if found.unknown:
        said.append(phrase("not known: {}", listed([it.label for it in found.unknown])))
    if found.layers is not None:
        said.append(phrase("counted in {}", layers_name(found.layers)))
    if found.then_a is not None:
        said.append(phrase("then {} continuous", say(found.then_a, "A")))
    return "\n".join(spoken(text) for text in said)


def _case(case: Mapping[str, Any], catalogues: list[Path]) -> dict[str, Any]:
    """One case of a batch: a file, and a part to list or to check."""
    evaluation = read_evaluation("lumvak spec", Path(case["file"]), catalogues)
    if evaluation is None:
        raise ValueError(f"{case['file']} cannot be used")
    if "check" in case:
        return _held_json(checked(case["check"], evaluation))
    return _spec_json(_parts(evaluation, case.get("part")), _contradictions(evaluation))
