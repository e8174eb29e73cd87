"""Readings of cells from a table, CSV or pasted, with heads in many spellings."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from msgspec import Struct

from lumvak.core.document.hand import HandCell
from lumvak.files.problem import FileProblem
from lumvak.files.signs import printable
from lumvak.files.spreadsheet import (
    harmless,
    rows_of,
    separator_of,
    unguarded,
)

# What heads are called, by the field that they are of; all in small letters and digits alone.
HEADS: dict[str, tuple[str, ...]] = {
    "number": ("number", "no", "nr", "num", "cell", "cellno", "cellnumber", "id", "cellid", "index",
               "zelle", "nummer"),
    "volts": ("volts", "voltage", "v", "u", "ocv", "restvoltage", "atrest", "rest", "voltage1",
              "v1", "ocv1", "spannung"),
    "later_v": ("later", "laterv", "voltage2", "v2", "ocv2", "secondvoltage", "latervoltage"),
    "days": ("days", "daysbetween", "day", "d", "tage"),
    "ah": ("ah", "mah", "capacity", "cap", "c", "capacityah", "capacitymah", "kapazitat"),
    "mohm": ("mohm", "ohm", "resistance", "ir", "esr", "r", "ri", "dcir", "acir", "dcr", "rmohm",
             "internalresistance", "widerstand"),
    "grams": ("grams", "gram", "g", "mass", "weight", "kg", "gewicht"),
    "remark": ("remark", "note", "notes", "comment", "bemerkung"),
    "photo": ("photo", "photograph", "picture", "image", "foto"),
}  # fmt: skip
WORDS = ("remark", "photo")
TITLES = {
    "number": "number", "volts": "volts", "later_v": "later V", "days": "days", "ah": "Ah",
    "mohm": "mohm", "grams": "g", "remark": "remark", "photo": "photo",
}  # fmt: skip
NAMES = {
    "number": "number", "volts": "voltage", "later_v": "voltage", "days": "count of days",
    "ah": "capacity", "mohm": "resistance", "grams": "mass", "remark": "remark",
    "photo": "photograph",
}  # fmt: skip
# Units in a head, and by how much a value in them is multiplied.
UNITS: dict[str, dict[str, float]] = {
    "volts": {"v": 1.0, "mv": 1e-3}, "later_v": {"v": 1.0, "mv": 1e-3},
    "ah": {"ah": 1.0, "mah": 1e-3}, "grams": {"g": 1.0, "kg": 1e3},
    "mohm": {"mohm": 1.0, "mω": 1.0, "mΩ".lower(): 1.0, "ohm": 1e3, "ω": 1e3, "µω": 1e-3,
             "uohm": 1e-3, "r": 1e3},
    "days": {"d": 1.0, "days": 1.0, "h": 1.0 / 24.0},
}  # fmt: skip
PLAIN = re.compile(r"[0-9.\n]*")
NUMBER = re.compile(r"[+\-\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+\-]?\d+)?")
MOST_ROWS, MOST_PROBLEMS, MOST_BYTES = 20_000, 8, 20_000_000


class Readings(Struct, frozen=True):
    """Cells as they were read; ``unknown`` are heads that nobody could place."""

    cells: tuple[dict[str, Any], ...]
    fields: tuple[str, ...]
    unknown: tuple[str, ...]


def bare(head: str) -> str:
    """A head in small letters and digits alone, without its unit."""
    text = re.sub(r"[(\[].*?[)\]]", "", head.lower())
    return re.sub(r"[^a-z0-9]", "", text.replace("ä", "a"))


def field_of(head: str, known: Mapping[str, str]) -> str | None:
    """The field that a head is of: as it was mapped before, else by its usual names."""
    name = bare(head)
    if head.strip().lower() in known:
        return known[head.strip().lower()]
    for field, names in HEADS.items():
        if name in names:
            return field
    # The first word says what it is, as in “capacity at 1 C”.
    first = bare(re.split(r"[\s,_/]+", head.strip())[0]) if head.strip() else ""
    return next((field for field, names in HEADS.items() if first and first in names), None)


def _factor(head: str, field: str) -> float:
    units = UNITS.get(field, {})
    named = re.search(r"[(\[]\s*([^)\]]+?)\s*[)\]]", head)
    if named is not None:
        return units.get(named[1].lower(), 1.0)
    last = re.split(r"[\s,_/]+", head.strip().lower())[-1]
    return units.get(last, 1.0) if last not in ("r", "v", "c") or last == "v" else 1.0


def read_readings(text: str, where: str, known: Mapping[str, str] | None = None) -> Readings:
    """Read a table of cells, all of it or nothing.

    ``where`` names it in problems; ``known`` gives the field of heads that were mapped before, in
    small letters. A head may name a unit, as in “capacity (mAh)”. Raises FileProblem with every
    problem by its line, up to MOST_PROBLEMS.
    """
    if len(text) > MOST_BYTES:
        raise FileProblem(f"{where}: larger than {MOST_BYTES // 1_000_000} MB; accepted: fewer")
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    if not lines:
        raise FileProblem(f"{where}: nothing in it; wanted is a row of heads, and a row a cell")
    if len(lines) > MOST_ROWS + 1:
        raise FileProblem(f"{where}: {len(lines)} rows; accepted: up to {MOST_ROWS}")
    rows = list(rows_of(lines, where, separator_of(lines)))
    heads = rows[0]
    if all(NUMBER.fullmatch(head.strip()) for head in heads if head.strip()):
        raise FileProblem(
            f"{where}, line 1: numbers where heads are wanted, such as number; voltage; "
            "capacity (mAh); resistance (mohm)"
        )
    fields = [field_of(head, known or {}) for head in heads]
    unknown = tuple(
        head.strip()
        for head, field in zip(heads, fields, strict=True)
        if field is None and head.strip()
    )
    placed = [field for field in fields if field is not None]
    if doubled := next((field for field in placed if placed.count(field) > 1), None):
        raise FileProblem(f"{where}, line 1: two columns are the {NAMES[doubled]}; accepted: one")
    if "number" not in placed:
        raise FileProblem(
            f"{where}, line 1: no column is the number of the cell; the heads are "
            f"{', '.join(head.strip() for head in heads)[:120]}"
        )
    columns = [
        (at, field, _factor(heads[at], field))
        for at, field in enumerate(fields)
        if field is not None
    ]
    cells, problems = _cells(rows[1:], columns, len(heads), where)
    if problems:
        more = (
            f"; and {len(problems) - MOST_PROBLEMS} more" if len(problems) > MOST_PROBLEMS else ""
        )
        raise FileProblem("; ".join(problems[:MOST_PROBLEMS]) + more)
    return Readings(tuple(cells), tuple(placed), unknown)


def _cells(
    rows: Sequence[Sequence[str]], columns: Sequence[tuple[int, str, float]], count: int, where: str
) -> tuple[list[dict[str, Any]], list[str]]:
    cells: list[dict[str, Any]] = []
    problems: list[str] = []
    seen: dict[int, int] = {}
    plain = {field: _plain_column(rows, at, field, factor) for at, field, factor in columns}
    for line, row in enumerate(rows, 2):
        if len(row) > count and any(cell.strip() for cell in row[count:]):
            problems.append(
                f"{where}, line {line}: {len(row)} columns, {count} heads; where commas are "
                "decimal, part the columns with semicolons"
            )
            continue
        cell: dict[str, Any] = {}
        for at, field, factor in columns:
            if (ready := plain[field]) is not None:
                if ready[line - 2] is not None:
                    cell[field] = ready[line - 2]
                continue
            shown = unguarded(row[at].strip()) if at < len(row) else ""
            if field in WORDS:
                cell[field] = printable(shown)[:200]
            elif shown and shown not in ("-", "–", "—", "n/a"):
                value = _value(shown, field, factor)
                if isinstance(value, str):
                    problems.append(f"{where}, line {line}: {value}")
                else:
                    cell[field] = value
        number = cell.get("number")
        if number is None:
            if not any(problem.startswith(f"{where}, line {line}:") for problem in problems):
                problems.append(f"{where}, line {line}: no number of the cell")
            continue
        if number in seen:
            problems.append(
                f"{where}, line {line}: cell {number} is in line {seen[number]} already"
            )
        seen[number] = line
        cells.append(cell)
    return cells, problems


def _plain_column(
    rows: Sequence[Sequence[str]], at: int, field: str, factor: float
) -> list[float | None] | list[int | None] | None:
    """A column that holds nothing but digits, points and gaps, and is within bounds; else ``None``.

    Thousands of rows are read at once so; all else is read a cell at a time, for its problems.
    """
    if field in WORDS:
        return None
    shown = [row[at].strip() if at < len(row) else "" for row in rows]
    if not PLAIN.fullmatch("\n".join(shown)):
        return None
    known = [text for text in shown if text]
    try:
        numbers = np.round(np.array(known, dtype=float) * factor, 9)
    except ValueError:
        return None
    low, high = BOUNDS.get(field, (1.0, 999_999.0))
    if ((numbers < low) | (numbers > high)).any():
        return None
    if field != "number":
        values = iter(numbers.tolist())
        return [next(values) if text else None for text in shown]
    if (numbers != np.floor(numbers)).any():
        return None
    whole = iter(numbers.astype(int).tolist())
    return [next(whole) if text else None for text in shown]


def _value(shown: str, field: str, factor: float) -> float | int | str:
    """The value of a cell of a table, or what is wrong with it."""
    match = NUMBER.match(shown)
    unit = shown[match.end() :].strip().lower() if match is not None else ""
    if match is None or (unit and unit not in UNITS.get(field, {})):
        return f"“{shown[:40]}” is no {NAMES[field]}; write a number such as 3.61"
    scale = UNITS[field][unit] if unit else factor
    number = float(match[0].replace(",", ".").replace("\u2212", "-"))
    if field == "number":
        if not 1.0 <= number <= 999_999.0 or number != int(number):
            return f"“{shown[:40]}” is no number of a cell; accepted: 1 to 999999"
        return int(number)
    value = round(number * scale, 9)
    low, high = BOUNDS[field]
    if not low <= value <= high:
        return f"{shown[:40]} is no {NAMES[field]}; accepted: {low:g} to {high:g}"
    return value


BOUNDS = {
    "volts": (-6.0, 6.0), "later_v": (-6.0, 6.0), "days": (1e-6, 1e4), "ah": (1e-6, 1e4),
    "mohm": (1e-6, 1e5), "grams": (1e-6, 1e5),
}  # fmt: skip


def readings_csv(cells: Sequence[HandCell], more: Sequence[Sequence[object]] = ()) -> str:
    """Cells as CSV that ``read_readings`` takes back; ``more`` are further columns, heads first."""
    out = io.StringIO()
    write = csv.writer(out, lineterminator="\n").writerow
    extra = list(more) or [[] for _ in range(len(cells) + 1)]
    write([*TITLES.values(), *extra[0]])
    for cell, further in zip(cells, extra[1:], strict=True):
        values = [getattr(cell, field) for field in TITLES]
        write(
            [
                "" if value is None else harmless(value) if isinstance(value, str) else value
                for value in (*values, *further)
            ]
        )
    return out.getvalue()
