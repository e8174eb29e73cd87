"""``lumvak diagnose``: which part is at fault, and what to measure next."""

from __future__ import annotations

import argparse
import re
from typing import Any

from msgspec.structs import replace

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.named import NotKnown, named
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.table import tell
from lumvak.cli.told import complain
from lumvak.core.afterwards.in_trouble import as_trouble_reading, case_of_project, fits
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.spelling import Refused, spoken
from lumvak.core.trouble.case import TroubleCase, TroubleMeter, case_of
from lumvak.core.trouble.causes import COMPLAINTS
from lumvak.core.trouble.diagnosis import Diagnosis, diagnosed
from lumvak.core.trouble.how import (
    cause_said,
    how_said,
    place_said,
    reading_said,
    speaking,
    state_said,
)
from lumvak.core.trouble.readings import (
    SWEEPS,
    ReadingError,
    TroubleReading,
    Value,
    check_place,
    state_of,
)
from lumvak.files.catalogue_file import load_catalogue

READING = re.compile(r"(?P<place>[a-z]+(?::\d+)?)(?:@(?P<state>[a-z]+(?::[\d.]+)?))?=(?P<value>.+)")
VALUE = re.compile(r"(?P<number>-?[\d.]+)\s*(?P<unit>mV|V|mohm|mΩ|ohm|Ω|)")
METER = re.compile(r"(?P<share>[\d.]+)%(?:\+(?P<digits>\d+))?d?")
OHMS = {"mohm": 1e-3, "mΩ": 1e-3, "ohm": 1.0, "Ω": 1.0}
# Causes less likely than this are not told in text.
LEAST_SHARE = 0.005
BATCH_WANTS = '{"series": 14, "complaint": "jumps", "readings": ["terminals=jumps", "pack=51.4V"]}'


class DiagnoseError(Refused):
    """What is asked cannot be meant so."""


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Rank the causes; 0 where it is known what to do, 1 where more is to be read, 2 refused."""
    if chosen.batch:
        catalogue, _ = load_catalogue(chosen.catalogue)
        return run_batch(lambda asked: _asked(asked, catalogue), BATCH_WANTS)
    if chosen.complaint is None or (chosen.file is None) == (chosen.series is None):
        refuse("a project or --series is wanted, and --complaint, or --batch")
    readings: list[TroubleReading] = []
    without = [it.strip() for it in chosen.without.split(",") if it.strip()]
    try:
        meter = None if chosen.meter is None else meter_of(chosen.meter)
        if chosen.file is not None:
            evaluation = evaluation_of(chosen)
            if evaluation is None:
                return 2
            case = case_of_project(evaluation)
            case = case if meter is None else replace(case, meter=meter)
            known = evaluation.project.trouble
            readings += [as_trouble_reading(it) for it in known.readings if fits(it, case.series)]
            without += known.without
        else:
            catalogue, _ = load_catalogue(chosen.catalogue)
            case = _few(chosen.series, chosen.chemistry, catalogue, meter)
        readings += [reading_of(text, case.series) for text in chosen.reading]
    except Refused as problem:
        complain("lumvak diagnose", spoken(problem.said))
        return 2
    found = diagnosed(case, chosen.complaint, readings, without)
    tell(chosen, diagnosis_json(found), lambda: diagnosis_text(found))
    return int(not found.enough)


def _few(
    series: int, chemistry: str | None, catalogue: Catalogue, meter: TroubleMeter | None
) -> TroubleCase:
    """A pack of which only count and chemistry are known; raises DiagnoseError."""
    known = catalogue.chemistries
    if not 1 <= series <= 400:
        raise DiagnoseError(f"--series {series}: accepted: 1 to 400")
    try:
        wanted = named(chemistry or "nmc", known, "chemistry")
    except NotKnown as problem:
        raise DiagnoseError(problem.said) from problem
    return case_of(series, known[wanted], meter)


def meter_of(text: str) -> TroubleMeter:
    """A meter from ``0.5%+2``; raises DiagnoseError."""
    match = METER.fullmatch(text.strip())
    if match is None or float(match["share"]) > 20.0:
        raise DiagnoseError(f"meter: “{text[:30]}”; accepted: such as 0.5%+2")
    return TroubleMeter(float(match["share"]) / 100.0, int(match["digits"] or 0))


def reading_of(text: str, series: int) -> TroubleReading:
    """A reading from ``group:3@load:10=3.21V``; raises ReadingError."""
    match = READING.fullmatch(text.strip())
    if match is None:
        raise ReadingError(f"“{text[:60]}” is no reading; accepted: such as group:3@load:10=3.21V")
    check_place(match["place"], series)
    state, amount = state_of(match["state"] or "rest")
    value, in_ohm = _value(match["value"].strip(), match["place"], series)
    return TroubleReading(match["place"], state, amount, value=value, in_ohm=in_ohm)


def _value(text: str, place: str, series: int) -> tuple[Value, bool]:
    if text in ("nothing", "jumps"):
        return ("nothing" if text == "nothing" else "jumps"), False
    if place in SWEEPS:
        if text == "alike":
            return "alike", False
        row = tuple(_number(it, place)[0] for it in text.split(","))
        if len(row) != series:
            raise ReadingError(f"{place}: {len(row)} values; accepted: {series}, or alike")
        return row, False
    return _number(text, place)


def _number(text: str, place: str) -> tuple[float, bool]:
    match = VALUE.fullmatch(text.strip())
    try:
        number = float("x" if match is None else match["number"])
    except ValueError:
        raise ReadingError(
            f"{place}: “{text[:30]}” is no value; accepted: 3.52V, 0.2mV, 12mohm, nothing, jumps"
        ) from None
    assert match is not None
    if match["unit"] in OHMS:
        return number * OHMS[match["unit"]], True
    return number * (1e-3 if match["unit"] == "mV" else 1.0), False


def _asked(asked: Any, catalogue: Catalogue) -> dict[str, Any]:
    """One line of a batch."""
    complaint = asked["complaint"]
    if complaint not in COMPLAINTS:
        raise DiagnoseError(f"no complaint “{complaint}”; accepted: {', '.join(COMPLAINTS)}")
    meter = meter_of(asked["meter"]) if "meter" in asked else None
    case = _few(int(asked["series"]), asked.get("chemistry"), catalogue, meter)
    readings = [reading_of(str(it), case.series) for it in asked.get("readings", ())]
    return diagnosis_json(diagnosed(case, complaint, readings, asked.get("without", ())))


def diagnosis_json(found: Diagnosis) -> dict[str, Any]:
    """What was found, as a script reads it."""
    full_v = found.courses[-1].case.charger_v
    causes = []
    for it in found.ranked:
        best, worst = speaking(found, it)
        causes.append(
            {
                "name": it.cause.name,
                "where": it.where,
                "what": it.cause.words,
                "probability": it.share,
                "for": spoken(best),
                "against": spoken(worst),
                "mend": it.cause.mend,
                "by": it.cause.by,
                "used": it.cause.used,
            }
        )
    wanted = found.next
    proposed = None
    if wanted is not None:
        state = wanted.state if not wanted.amount else f"{wanted.state}:{wanted.amount:g}"
        how = how_said(wanted.place, wanted.state, wanted.amount, wanted.in_ohm, full_v)
        proposed = {
            "where": wanted.place,
            "state": state,
            "unit": "ohm" if wanted.in_ohm else "V",
            "why": f"it tells {wanted.bits:.2f} bits of what is open, most for its effort",
            "gain_bits": wanted.bits,
            "effort": wanted.effort,
            "how": spoken(how),
        }
    return {
        "causes": causes,
        "next": proposed,
        "enough": found.enough,
        "do": do_said(found),
    }


def do_said(found: Diagnosis) -> str:
    """What to do now."""
    first = found.ranked[0]
    if not found.enough or first.cause.name == "something-else":
        if found.next is not None:
            return f"read {spoken(place_said(found.next.place))}"
        return first.cause.mend
    return first.cause.mend


def diagnosis_text(found: Diagnosis) -> str:
    """What was found, to read."""
    lines = []
    for reading in found.readings:
        lines.append(f"read: {spoken(reading_said(reading))}")
    for it in found.ranked[:5]:
        if it.share < LEAST_SHARE:
            break
        best, worst = speaking(found, it)
        lines.append(f"{it.share:6.1%}  {spoken(cause_said(it))}")
        lines.append(f"        for: {spoken(best)}; against: {spoken(worst)}")
    wanted = found.next
    if wanted is None:
        lines += ["", f"More readings would not change what to do: {do_said(found)}."]
    else:
        full_v = found.courses[-1].case.charger_v
        how = how_said(wanted.place, wanted.state, wanted.amount, wanted.in_ohm, full_v)
        lines += [
            "",
            f"Read next: {spoken(place_said(wanted.place))}, "
            f"{spoken(state_said(wanted.state, wanted.amount))} ({wanted.effort}).",
            f"{spoken(how)}",
        ]
    return "\n".join(lines)
