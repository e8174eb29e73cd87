"""``lumvak taps``: running totals of balance leads compared with everything that can be wrong."""

from __future__ import annotations

import argparse
import math
import re
from collections.abc import Sequence
from typing import Any

import numpy as np
from msgspec.structs import replace

from lumvak.cli.batch import run_batch
from lumvak.cli.command import Refuse
from lumvak.cli.project.reading import evaluation_of
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain
from lumvak.core.evaluation import Evaluation, guides_in_hand, taps_as_read
from lumvak.core.said import listed
from lumvak.core.spelling import Refused, spoken
from lumvak.core.taps.check import meter_of
from lumvak.core.taps.guide import USUAL, TapGuide, order_said, unused_pins
from lumvak.core.taps.hypotheses import Hypothesis
from lumvak.core.taps.misread import counted, misread
from lumvak.core.taps.readings import JOINT, MAIN_MINUS, MAIN_PLUS, Between, Case, TapMeter
from lumvak.core.taps.verdict import Next, TapVerdict, judged
from lumvak.core.taps.words import end_said, next_said, said, verdict_said

NOTHING = ("open", "null", "none", "-", "–", "—", "")
METER = re.compile(r"(\d+(?:[.,]\d+)?)\s*%\s*(?:\+\s*(\d+(?:[.,]\d+)?)\s*d(?:igits?)?)?")
MORE = re.compile(r"(\d{1,3}|plus|minus)\s*-\s*(\d{1,3}|plus|minus)\s*=\s*(-?\d+(?:[.,]\d+)?)\s*v?")
# Further groups or leads than this no board has.
MOST = 400


class TapsError(Refused):
    """Readings, groups or a meter that cannot be meant so."""


def _volts(text: str, what: str) -> list[float]:
    """Volts from ``3.71,3.70``; where semicolons part them, the comma is decimal."""
    parted = text.split(";") if ";" in text else text.split(",")
    found = []
    for place, item in enumerate(parted):
        shown = item.strip().lower().removesuffix("v").strip()
        if shown in NOTHING and what == "reading":
            found.append(math.nan)
            continue
        try:
            value = float(shown.replace(",", ".").replace("\u2212", "-"))
        except ValueError:
            value = math.nan
        if not math.isfinite(value):
            accepted = " or open" if what == "reading" else ""
            raise TapsError(
                f"{what} {place + (what == 'group')}: “{item.strip()[:40]}” is no voltage; "
                f"accepted: a number such as 3.71{accepted}"
            )
        found.append(value)
    return found


def _meter(text: str, decimals: int) -> TapMeter:
    match = METER.fullmatch(text.strip())
    if match is None:
        raise TapsError(f"meter: “{text[:40]}” is no accuracy; accepted: such as 0.5%+2d")
    percent, digits = (float((part or "0").replace(",", ".")) for part in match.groups())
    if percent >= 20.0:
        raise TapsError(f"meter: {percent:g} % is no meter; accepted: under 20 %")
    return TapMeter(percent / 100.0, digits, 10.0**-decimals)


def _decimals(text: str) -> int:
    """How many decimals the readings were typed with: what the meter shows."""
    semicolons = ";" in text
    found = re.findall(r"\d[.,](\d+)" if semicolons else r"\d\.(\d+)", text)
    return min(max((len(item) for item in found), default=2), 4)


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Judge readings; 0 when safe to plug in, 1 when not, 2 where something is no good.

    Of a project without readings the guide is printed, and 0 returned.
    """
    if chosen.batch:
        return _batch()
    if chosen.file is None and (chosen.groups is None or chosen.readings is None):
        refuse("a project, or --groups and --readings are wanted, or --batch")
    seen = None
    if chosen.file is not None:
        seen = evaluation_of(chosen)
        if seen is None:
            return 2
    try:
        case, found = _asked(chosen, seen)
    except TapsError as problem:
        complain("lumvak taps", problem)
        return 2
    guides = () if seen is None else guides_in_hand(seen)
    guide = {} if seen is None else {"guide": guide_records(seen, guides)}
    judgement = {} if case is None or found is None else records(case, found)
    chosen.rows = "guide.leads" if guide else "hypotheses"
    lines = [] if seen is None else _guide_lines(seen, guides)
    lines += [] if case is None or found is None else _verdict_lines(case, found)
    tell(chosen, {**guide, **judgement}, lambda: "\n".join(lines))
    return 0 if found is None or found.safe else 1


def _asked(
    chosen: argparse.Namespace, evaluation: Evaluation | None
) -> tuple[Case | None, TapVerdict | None]:
    """The case that is asked about, judged; ``None`` where a project has no readings yet."""
    if chosen.readings is None:
        if evaluation is None or chosen.groups is not None:
            raise TapsError("--groups go with --readings")
        return evaluation.balance.check.case, evaluation.balance.check.verdict
    readings = _volts(chosen.readings, "reading")
    more = [_more(text) for text in chosen.more]
    meter = _meter(chosen.meter or "0.5%+2d", _decimals(chosen.readings))
    if chosen.groups is not None:
        case = case_of(_volts(chosen.groups, "group"), readings, meter, more)
    else:
        assert evaluation is not None
        if chosen.meter is None:
            meter = meter_of(evaluation.project.hand.meter)
        # What the readings say of groups that nobody measured is taken, as where they are kept.
        usual = taps_as_read(evaluation, readings).case
        case = replace(
            case_of(usual.groups.tolist(), readings, meter, more),
            apart_v=usual.apart_v,
            zero_is_main=usual.zero_is_main,
        )
    _check_ends(case.more, len(case.groups))
    found = judged(case)
    _refuse_misread(case, found)
    return case, found


def guide_records(evaluation: Evaluation, guides: Sequence[TapGuide]) -> dict[str, Any]:
    """Where balance leads go, as plain records."""
    board = evaluation.sized.boards.board
    plug = USUAL if board is None or board.plug is None else board.plug
    return {
        "board": None if board is None else board.id,
        "order": order_said(board),
        "unused_pins": []
        if board is None
        else list(unused_pins(plug, board.series, evaluation.sized.choice.series)),
        "leads": [
            {
                "number": item.number,
                "terminal": item.place,
                "side": item.side,
                "colour": item.colour,
                "pin": item.pin or None,
                "plug": item.plug or None,
                "length_mm": round(item.length_mm, 1),
                "route_mm": [[round(x, 1), round(y, 1)] for x, y in item.route_mm.tolist()],
                "over_joint": item.across,
                "over_v": round(item.across_v, 3),
                "expected_v": round(item.expected_v, 3),
            }
            for item in guides
        ],
    }


def _guide_lines(evaluation: Evaluation, guides: Sequence[TapGuide]) -> list[str]:
    rows = [
        (
            str(item.number),
            item.place,
            item.side,
            item.colour,
            item.pin or "none",
            f"{item.length_mm:.0f} mm",
            "" if item.across is None else f"tap {item.across}, {item.across_v:.1f} V",
            f"{item.expected_v:.2f} V",
        )
        for item in guides
    ]
    heads = ("lead", "on", "side", "colour", "pin", "length", "lies over", "should read")
    return [table(heads, rows), order_said(evaluation.sized.boards.board)]


def case_of(
    groups: Sequence[float],
    readings: Sequence[float],
    meter: TapMeter,
    more: Sequence[Between] = (),
) -> Case:
    """Groups and running totals in V as a case; raises TapsError naming what cannot be meant."""
    for place, volts in enumerate(groups, 1):
        if volts > 100.0:
            raise TapsError(
                f"group {place}: {volts:g} V; millivolts may be meant: {volts / 1000.0:g} V"
            )
        if not 0.0 < volts <= 6.0:
            raise TapsError(f"group {place}: {volts:g} V; accepted: over 0, up to 6 V")
    if not 1 <= len(groups) <= MOST:
        raise TapsError(f"{len(groups)} groups; accepted: 1 to {MOST}")
    if problem := counted(readings, len(groups)):
        raise TapsError(problem)
    return Case(np.array(groups, dtype=float), np.array(readings, dtype=float), meter, tuple(more))


def _refuse_misread(case: Case, found: TapVerdict) -> None:
    """Totals that nothing explains are told where they cannot be meant so."""
    problems = [] if found.explained else [item.text for item in misread(case)]
    if problems:
        raise TapsError(spoken(listed(problems[:6], "; ")))


def records(case: Case, found: TapVerdict) -> dict[str, Any]:
    """A verdict as plain records."""
    return {
        "hypotheses": [_hypothesis(case, item) for item in found.hypotheses],
        "leads": found.leads,
        "groups": [
            {
                "group": item.group,
                "verdict": "told" if item.told else "not-told",
                "least_told_v": round(item.least_told_v, 3),
                "lacks_v": round(item.lacks_v, 3),
            }
            for item in found.groups
        ],
        "safe": found.safe,
        "next_reading": None if found.next is None else _next(found.next),
        "words": spoken(verdict_said(case, found)),
    }


def _hypothesis(case: Case, item: Hypothesis) -> dict[str, Any]:
    return {
        "name": item.name,
        "leads": list(item.leads),
        "groups": list(item.groups),
        "probability": round(item.probability, 6),
        "faults": [
            {"name": fault.name, "leads": list(fault.leads), "groups": list(fault.groups)}
            for fault in item.faults
        ],
        "joints": [None if place < 0 else place for place in item.joint.tolist()],
        "lacks_v": {str(group): round(volts, 3) for group, volts, _ in item.lack},
        "lacks_within_v": {str(group): round(within, 3) for group, _, within in item.lack},
        "words": spoken(said(item)),
    }


def _next(wanted: Next) -> dict[str, Any]:
    return {
        "from": _end(wanted.start),
        "to": _end(wanted.end),
        "why": spoken(next_said(wanted)),
        "decides": list(dict.fromkeys(wanted.decides)),
        "expects_v": [None if math.isnan(volts) else round(volts, 3) for volts in wanted.expects],
    }


def _end(end: int) -> int | str:
    """A lead by its number; ``plus`` and ``minus`` are the pack's own poles."""
    if end in (MAIN_MINUS, MAIN_PLUS):
        return "minus" if end == MAIN_MINUS else "plus"
    return end if end < JOINT else spoken(end_said(end))


def _verdict_lines(case: Case, found: TapVerdict) -> list[str]:
    rows = [
        (str(lead), f"{wanted:.3f} V", "open" if math.isnan(read) else f"{read:g} V")
        for lead, (wanted, read) in enumerate(
            zip(case.level.tolist(), case.totals.tolist(), strict=True)
        )
    ]
    return [table(("lead", "expected", "read"), rows), spoken(verdict_said(case, found))]


def _batch() -> int:
    def one(given: Any) -> dict[str, Any]:
        case = _case(given)
        return records(case, judged(case))

    return run_batch(
        one,
        '{"groups": [...], "readings": [...], "meter_percent", "meter_digits", "resolution_v"}',
    )


def _case(given: Any) -> Case:
    readings = [
        math.nan if value is None or value == "open" else _finite(value)
        for value in given["readings"]
    ]
    meter = TapMeter(
        _finite(given.get("meter_percent", 0.5)) / 100.0,
        _finite(given.get("meter_digits", 2.0)),
        _finite(given.get("resolution_v", 0.01)),
    )
    if not (0.0 <= meter.percent < 0.2 and 0.0 <= meter.digits <= 1000.0):
        raise TapsError("meter_percent or meter_digits")
    if not 0.0 < meter.resolution_v <= 1.0:
        raise TapsError(f"resolution_v {meter.resolution_v:g}; accepted: over 0, up to 1")
    more = [
        Between(_end_of(item["from"]), _end_of(item["to"]), _finite(item["volts"]))
        for item in given.get("more", ())
    ]
    groups = [_finite(value) for value in given["groups"]]
    _check_ends(more, len(groups))
    return case_of(groups, readings, meter, more)


def _check_ends(more: Sequence[Between], groups: int) -> None:
    for item in more:
        for end in (item.start, item.end):
            if end >= 0 and end % JOINT > groups:
                raise TapsError(f"there is no {spoken(end_said(end))}")


def _more(text: str) -> Between:
    """A further reading from ``0-1=3.65``; raises TapsError."""
    match = MORE.fullmatch(text.strip().lower())
    if match is None:
        raise TapsError(f"more: “{text[:40]}”; accepted: such as 0-1=3.65 or 0-plus=51.1")
    start, end, volts = match.groups()
    ends = [_end_of(int(item) if item.isdecimal() else item) for item in (start, end)]
    return Between(ends[0], ends[1], float(volts.replace(",", ".")))


def _end_of(value: object) -> int:
    if isinstance(value, bool) or not isinstance(value, int | str):
        raise TapsError(f"“{value}” is no lead")
    if isinstance(value, int):
        if not 0 <= value < JOINT:
            raise TapsError(f"{value} is no lead")
        return value
    if value in ("minus", "main minus", "main-"):
        return MAIN_MINUS
    if value in ("plus", "main plus", "main+"):
        return MAIN_PLUS
    match = re.fullmatch(r"(?:joint|tap) (\d{1,3})", value)
    if match is None:
        raise TapsError(f"“{value}” is no lead")
    return JOINT + int(match[1])


def _finite(value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise TapsError(f"“{value}” is no number")
    if abs(value) > 1e6:
        raise TapsError(f"{value} is too large")
    return float(value)
