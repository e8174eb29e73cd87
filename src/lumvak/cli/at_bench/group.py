"""``lumvak group``: a pool of measured cells dealt into groups that are alike."""

from __future__ import annotations

import argparse
import json
import math
import time
from collections.abc import Iterator, Sequence
from typing import Any

from msgspec import Struct

from lumvak.cli.batch import NO_CASE
from lumvak.cli.command import Refuse
from lumvak.cli.named import NotKnown, named
from lumvak.cli.spelled import pin_of, say, seconds_of
from lumvak.cli.table import table, tell
from lumvak.cli.told import complain, lines_in, shown
from lumvak.core.document.hand import HandCell, Lot, Meter
from lumvak.core.matching.dealing import METHOD_NAMES, Compared, compared, proof_of
from lumvak.core.matching.judging import JudgedCell, judge_lot
from lumvak.core.matching.numbering import gaps, slips
from lumvak.core.matching.pool import WEIGHTS, PoolError, pool_of
from lumvak.core.record import FLOOR
from lumvak.core.spelling import spoken
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.problem import FileProblem, read_text
from lumvak.files.readings_file import read_readings


class Wanted(Struct, frozen=True):
    """How a pool is to be dealt."""

    series: int
    parallel: int
    by: str
    pins: dict[int, int]
    apart: list[list[int]]
    seed: int
    seconds: float | None


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Deal cells; 0 when done, 1 where good cells are missing, 2 where something is no good."""
    if chosen.batch:
        return _batch(chosen)
    if chosen.file is None or chosen.series is None or chosen.parallel is None:
        refuse("a table of cells, --series and --parallel are wanted")
    try:
        readings = read_readings(read_text(chosen.file), chosen.file.name)
        judged = _judged(readings.cells, chosen)
    except (FileProblem, NotKnown) as problem:
        complain("lumvak group", problem)
        return 2
    for text in _notes(readings.unknown, [item.cell.number for item in judged]):
        complain("lumvak group", text)
    wanted = Wanted(
        chosen.series,
        chosen.parallel,
        by=chosen.by,
        pins=dict(chosen.pin),
        apart=chosen.apart,
        seed=chosen.seed,
        seconds=chosen.seconds,
    )
    good = [item.cell for item in judged if item.state != "reject"]
    result, status = _dealt([(cell.number, cell.ah, cell.mohm) for cell in good], wanted)
    result["cells"] = len(judged)
    result["rejected"] = [
        {"number": item.cell.number, "reason": spoken(item.said)}
        for item in judged
        if item.state == "reject"
    ]
    if "error" in result and not chosen.json:
        complain(chosen.command, result["error"])
        return status
    tell(chosen, result, lambda: _text(result))
    return status


def _judged(cells: Sequence[dict[str, Any]], chosen: argparse.Namespace) -> tuple[JudgedCell, ...]:
    sheet = family = None
    if chosen.cell is not None:
        catalogue, problems = load_catalogue(chosen.catalogue)
        for text in problems:
            complain("lumvak group", text)
        sheet = catalogue.cells[named(chosen.cell, catalogue.cells, "cell")]
        family = catalogue.chemistry_of(sheet).family
    made = [HandCell(**cell) for cell in cells]
    return judge_lot(Lot(origin=chosen.origin), made, sheet, family, Meter()).cells


def _notes(unknown: Sequence[str], numbers: Sequence[int]) -> Iterator[str]:
    if unknown:
        yield f"left out: {', '.join(unknown)[:200]}"
    if lacking := gaps(numbers):
        shown = ", ".join(map(str, lacking[:12]))
        yield f"numbers that lack: {shown}{' …' if len(lacking) > 12 else ''}"
    for slip in slips(numbers):
        meant = f"; {' or '.join(map(str, slip.meant[:3]))} may be meant" if slip.meant else ""
        yield f"number {slip.number} lies far from the others{meant}"


def _dealt(
    cells: Sequence[tuple[int, float | None, float | None]], wanted: Wanted
) -> tuple[dict[str, Any], int]:
    """The result of a pool as records, and the exit status."""
    begun = time.perf_counter()
    ohms = [(number, ah, None if mohm is None else mohm * 1e-3) for number, ah, mohm in cells]
    try:
        pool = pool_of(
            ohms, wanted.series, wanted.parallel, WEIGHTS[wanted.by], wanted.pins, wanted.apart
        )
        found = compared(pool, wanted.seed, wanted.seconds)
    except PoolError as error:
        return {"error": str(error), "missing": error.missing}, 1 if error.missing else 2
    return {**records(found), "seconds": round(time.perf_counter() - begun, 4)}, 0


def records(found: Compared) -> dict[str, Any]:
    """Every method, and the best of them, as plain records."""
    best = found.best
    return {
        "methods": {
            name: {
                "spread_capacity": _plain(dealt.spread_capacity),
                "spread_conductance": _plain(dealt.spread_conductance),
                "delivered_ah": _plain(dealt.delivered_ah),
            }
            for name, dealt in found.methods.items()
        },
        "best": {
            "groups": best.numbers(),
            "capacity_ah": [_plain(value) for value in best.group_ah.tolist()],
            "resistance_ohm": [
                _plain(1.0 / value if value else value) for value in best.group_siemens.tolist()
            ],
        },
        "bound": found.bound,
        "gap": found.gap,
        "proven": best.proven,
        "proof_of": proof_of(best.pool),
        "spares": [best.pool.numbers[at] for at in best.spares],
    }


def _plain(value: float) -> float | None:
    # What was never measured is no number.
    return None if math.isnan(value) else round(value, 12)


def _text(result: dict[str, Any]) -> str:
    lines = [f"{it['number']} is left out: {it['reason']}" for it in result["rejected"]]
    rows = [
        (
            METHOD_NAMES[name],
            *(_share(found[key]) for key in ("spread_capacity", "spread_conductance")),
            "—" if found["delivered_ah"] is None else say(found["delivered_ah"], "Ah"),
        )
        for name, found in result["methods"].items()
    ]
    lines.append(table(("method", "capacity apart", "conductance apart", "delivers"), rows))
    better = f"is more than {_share(result['gap'])} better" if result["gap"] > 0.0 else "is better"
    lines.append(f"by {result['proof_of']} no assignment {better}")
    best = result["best"]
    heads = ("group", "Ah", "mΩ", "cells")
    groups = zip(best["groups"], best["capacity_ah"], best["resistance_ohm"], strict=True)
    lines.append(
        table(
            heads,
            [
                (
                    f"g{place}",
                    "—" if ah is None else f"{ah:.3f}",
                    "—" if ohm is None else f"{ohm * 1e3:.3f}",
                    " ".join(map(str, sorted(numbers))),
                )
                for place, (numbers, ah, ohm) in enumerate(groups, 1)
            ],
        )
    )
    if result["spares"]:
        lines.append(f"left over: {', '.join(map(str, result['spares']))}")
    return "\n".join(lines)


def _share(value: float | None) -> str:
    return "—" if value is None else f"{100.0 * value:.4f} %"


def _batch(chosen: argparse.Namespace) -> int:
    """A case a line; of its cells only those are left out that must never be charged again."""
    worst = 0
    for line in lines_in():
        if not line.strip():
            continue
        result, status = _case(line, chosen)
        print(json.dumps(result, ensure_ascii=False, default=spoken), flush=True)
        worst = max(worst, status)
    return worst


def _case(line: str, chosen: argparse.Namespace) -> tuple[dict[str, Any], int]:
    try:
        return _answered(json.loads(line), chosen)
    except (*NO_CASE, argparse.ArgumentTypeError) as error:
        wants = '{"cells": [{"number", "ah", "mohm", "volts"}], "series", "parallel"}'
        return {"error": f"no case ({shown(error)}); wanted is {wants}"}, 2


def _answered(case: dict[str, Any], chosen: argparse.Namespace) -> tuple[dict[str, Any], int]:
    cells = [
        (int(item["number"]), _number(item.get("ah")), _number(item.get("mohm")))
        for item in case["cells"]
    ]
    made = [HandCell(number=int(item["number"]), volts=item.get("volts")) for item in case["cells"]]
    seconds, seed = case.get("seconds", chosen.seconds), int(case.get("seed", chosen.seed))
    wanted = Wanted(
        int(case["series"]),
        int(case["parallel"]),
        by=case.get("by", chosen.by),
        pins=dict(pin_of(item) for item in case.get("pins", ())),
        apart=[list(map(int, item)) for item in case.get("apart", ())],
        seed=seed,
        seconds=None if seconds is None else seconds_of(str(seconds)),
    )
    if wanted.by not in WEIGHTS or min(wanted.series, wanted.parallel) < 1 or seed < 0:
        raise ValueError("series, parallel, seed or by")
    judged = judge_lot(Lot(), made, None, None, Meter()).cells
    never = {
        item.cell.number: item.said
        for item in judged
        if any(reason.never for reason in item.reasons)
    }
    result, status = _dealt([cell for cell in cells if cell[0] not in never], wanted)
    rejected = [{"number": number, "reason": why} for number, why in never.items()]
    return {**result, "cells": len(cells), "rejected": rejected}, status


def _number(value: object) -> float | None:
    if value is None:
        return None
    number = float(value)  # type: ignore[arg-type]
    if not FLOOR <= number < 1e6:
        raise ValueError(f"{number} is no reading")
    return number
