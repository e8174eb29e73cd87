"""The log of a pack as a table."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from lumvak.core.document.afterwards.record_of_pack import LogEntry

HEADS = ("when", "kind", "stage", "group", "text", "reason", "who", "corrects", "photos", "id")


def log_csv(log: Iterable[LogEntry]) -> str:
    """A line for each entry, by the names of its fields."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADS)
    for entry in log:
        table.writerow([_cell(getattr(entry, head)) for head in HEADS])
    return out.getvalue()


def _cell(value: object) -> object:
    if isinstance(value, tuple):
        return "; ".join(map(str, value))
    return "" if value is None else value
