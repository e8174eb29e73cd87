"""Logs of a charge as chargers, meters and spreadsheets write them."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from datetime import datetime

from msgspec import Struct

from lumvak.core.checked import NotAccepted, made
from lumvak.core.document.charging import MOST_LOG, LogRow
from lumvak.core.spelling import spoken
from lumvak.files.logs.tester_log import CLOCK, HEADS, columns_of, number_of
from lumvak.files.problem import FileProblem
from lumvak.files.spreadsheet import rows_of, separator_of

WANTED = {
    **HEADS, "time": (*HEADS["time"], "date", "datetime", "timestamp"),
    "warm": ("temperature", "temp", "celsius", "warm", "warmest"),
}  # fmt: skip
GROUP = re.compile(r"(?:g|group|cell|c)\s*_?(\d{1,3})(?:\s*\(?(v|mv)\)?)?")
MOST_ROWS = 2_000_000


class LoggedCharge(Struct, frozen=True):
    """Readings from the first on, and in a sentence what became of the rows."""

    rows: tuple[LogRow, ...]
    start: str
    said: str


def read_charge_log(text: str, where: str, groups: int) -> LoggedCharge:
    """Read a log of a charge with heads: time and volts, amps, warmth and groups where there are.

    Time is in s unless its head says ms, min or h, on a clock, or a date with a time; a number
    without marks between its parts is a date only where the head says so. Raises FileProblem by
    its line: no column, no number, time that runs backwards.
    """
    lines = [line for line in text.lstrip("\ufeff").splitlines() if line.strip()]
    if not 2 <= len(lines) <= MOST_ROWS:
        raise FileProblem(f"{where}: {len(lines)} rows; accepted: 2 to {MOST_ROWS}, heads first")
    rows = list(rows_of(lines, where, separator_of(lines)))
    columns = columns_of(rows[0], WANTED)
    if lacking := [name for name in ("time", "volts") if name not in columns]:
        raise FileProblem(
            f"{where}, line 1: no column for {', '.join(lacking)}; accepted: heads such as "
            "time, voltage, current"
        )
    places = _groups(rows[0])
    if places and len(places) != groups:
        raise FileProblem(
            f"{where}, line 1: {len(places)} groups; the pack has {groups}; accepted: all of them, "
            "or none"
        )
    first = rows[1][columns["time"][0]].strip() if columns["time"][0] < len(rows[1]) else ""
    found, before = list[LogRow](), -1.0
    dated = "date" in rows[0][columns["time"][0]].lower()
    origin = _time(first, columns["time"][1], f"{where}, line 2", dated)
    keep = max(1, -(-len(rows) // MOST_LOG))
    for line, cells in enumerate(rows[1:], 2):
        place = f"{where}, line {line}"
        shown = _cell(cells, columns["time"][0])
        seconds = _time(shown, columns["time"][1], place, dated) - origin
        if seconds <= before:
            raise FileProblem(
                f"{place}: time runs backwards, or stands: {shown[:40]}; accepted: times that rise"
            )
        before = seconds
        if keep > 1 and (line - 2) % keep and line != len(rows):
            continue
        found.append(_row(cells, columns, places, seconds, place))
    said = f"{len(rows) - 1} readings"
    if keep > 1:
        said += f", every {keep}th of them kept"
    start = first if _date(first, dated) is not None else ""
    return LoggedCharge(tuple(found), start, f"{said}.")


def _groups(heads: Sequence[str]) -> list[tuple[int, float]]:
    """Place and scale of the columns of groups, in their order."""
    found = []
    for place, head in enumerate(heads):
        match = GROUP.fullmatch(head.strip().lower())
        if match is not None:
            found.append((int(match[1]), place, 1e-3 if match[2] == "mv" else 1.0))
    return [(place, scale) for _, place, scale in sorted(found)]


def _cell(cells: Sequence[str], place: int) -> str:
    return cells[place].strip() if place < len(cells) else ""


def _date(shown: str, dated: bool) -> datetime | None:
    """When that was; a number is no date, unless it is ``dated`` by its head."""
    if not dated and shown.strip().isdecimal():
        return None
    try:
        return datetime.fromisoformat(shown.strip())
    except ValueError:
        return None


def _time(shown: str, scale: float, place: str, dated: bool) -> float:
    if CLOCK.fullmatch(shown) is None and (when := _date(shown, dated)) is not None:
        return (when - datetime(2000, 1, 1, tzinfo=when.tzinfo)).total_seconds()
    return number_of(shown, place, "time", scale)


def _row(
    cells: Sequence[str],
    columns: dict[str, tuple[int, float]],
    places: list[tuple[int, float]],
    seconds: float,
    place: str,
) -> LogRow:
    def value(name: str) -> float | None:
        if name not in columns:
            return None
        at, scale = columns[name]
        shown = _cell(cells, at)
        return number_of(shown, place, name, scale) if shown else None

    volts = value("volts")
    if volts is None:
        raise FileProblem(f"{place}: no volts; write a number")
    each = [_cell(cells, at) for at, _ in places]
    read: tuple[float, ...] = ()
    if all(each):
        read = tuple(
            number_of(shown, place, "volts of a group", scale)
            for shown, (_, scale) in zip(each, places, strict=True)
        )
    try:
        return made(
            LogRow,
            {
                "seconds": round(seconds, 3),
                "volts": volts,
                "amps": value("amps"),
                "warm_c": value("warm"),
                "groups": read,
            },
        )
    except NotAccepted as error:
        raise FileProblem(f"{place}: {spoken(error.wrongs[0].sentence)}") from error


def log_csv(rows: Sequence[LogRow]) -> str:
    """A log as CSV by RFC 4180: heads, commas, CRLF."""
    count = max((len(row.groups) for row in rows), default=0)
    stream = io.StringIO()
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow(
        [
            "time s",
            "volts",
            "amps",
            "temperature",
            *(f"group {place}" for place in range(1, count + 1)),
        ]
    )
    for row in rows:
        writer.writerow(
            [
                repr(row.seconds),
                repr(row.volts),
                "" if row.amps is None else repr(row.amps),
                "" if row.warm_c is None else repr(row.warm_c),
                *([repr(value) for value in row.groups] or [""] * count),
            ]
        )
    return stream.getvalue()
