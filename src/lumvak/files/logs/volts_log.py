"""Logs and pasted rows of group voltages, as modules, boards and spreadsheets write them."""

from __future__ import annotations

import re

from msgspec import Struct

from lumvak.core.document.watch import MOST_SETS, VoltsSet
from lumvak.files.problem import FileProblem
from lumvak.files.signs import printable
from lumvak.files.spreadsheet import separator_of

MOST_BYTES, MOST_SHOWN = 20_000_000, 6
NUMBER = re.compile(r"[+\-\u2212]?\d+(?:[.,]\d+)?")
# Over this, volts of a group are millivolts.
MILLIVOLTS = 100.0


class VoltsLog(Struct, frozen=True):
    """Sets as they were logged; ``millivolts`` is whether they were written so."""

    sets: tuple[VoltsSet, ...]
    millivolts: bool


def read_volts(text: str, where: str, groups: int, from_positive: bool = False) -> VoltsLog:
    """Read rows of group voltages, all of them or nothing; a first column may tell when.

    A row of heads is passed over. ``from_positive`` is whether group 1 is at the positive end.
    Raises FileProblem by its lines, up to MOST_SHOWN.
    """
    if len(text) > MOST_BYTES:
        raise FileProblem(f"{where}: larger than {MOST_BYTES // 1_000_000} MB; accepted: fewer")
    lines = [
        (at, line) for at, line in enumerate(text.lstrip("\ufeff").splitlines(), 1) if line.strip()
    ]
    if not lines:
        raise FileProblem(f"{where}: nothing in it; wanted is a row of {groups} voltages")
    separator = separator_of([line for _, line in lines])
    problems: list[str] = []
    rows: list[tuple[str, list[float]]] = []
    for at, line in lines:
        cells = [cell.strip() for cell in line.split(separator)]
        if at == lines[0][0] and not any(NUMBER.fullmatch(cell) for cell in cells[1:] or cells):
            continue
        when, values = ("", cells) if len(cells) == groups else (cells[0], cells[1:])
        if len(values) != groups:
            problems.append(f"{where}, line {at}: {len(values)} voltages for {groups} groups")
            continue
        bad = next((cell for cell in values if not NUMBER.fullmatch(cell)), None)
        if bad is not None:
            problems.append(f"{where}, line {at}: “{bad[:30]}” is no voltage")
            continue
        rows.append((when[:40], [_number(cell) for cell in values]))
    if not problems and not rows:
        problems.append(f"{where}: a row of heads and no voltages")
    if len(rows) > MOST_SETS:
        problems.append(f"{where}: {len(rows)} rows; accepted: up to {MOST_SETS}")
    high = max((max(values) for _, values in rows), default=0.0)
    scale = 1e-3 if high > MILLIVOLTS else 1.0
    for place, (_, read) in enumerate(rows, 1):
        off = next((value for value in read if not -6.0 <= value * scale <= 6.0), None)
        if off is not None:
            problems.append(
                f"{where}, row {place}: {off:g} is no voltage of a group; accepted: up to 6 V"
            )
    if problems:
        more = f"; and {len(problems) - MOST_SHOWN} more" if len(problems) > MOST_SHOWN else ""
        raise FileProblem("; ".join(problems[:MOST_SHOWN]) + more)
    order = -1 if from_positive else 1
    sets = tuple(
        VoltsSet(
            when=printable(when), volts=tuple(round(value * scale, 6) for value in values[::order])
        )
        for when, values in rows
    )
    return VoltsLog(sets, scale != 1.0)


def _number(text: str) -> float:
    return float(text.replace(",", ".").replace("\u2212", "-"))
