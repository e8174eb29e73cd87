"""What a command has to say: plain tables to read, JSON and CSV for programs."""

from __future__ import annotations

import argparse
import csv
import io
import json
import sys
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from lumvak.core.spelling import spoken


def tell(chosen: argparse.Namespace, document: Any, text: Callable[[], str]) -> None:
    """Print what was found as it was asked for: JSON, its table as CSV, or text to read."""
    if chosen.json:
        print(json_text(document))
    elif chosen.csv:
        print(csv_text(document, chosen.rows), end="")
    else:
        print(text())


def table(head: Sequence[str], rows: Sequence[Sequence[str]], left: Sequence[int] = (0,)) -> str:
    """Columns as wide as they need, ``left`` ones aligned left, the others right."""
    widths = [max(len(line[place]) for line in (head, *rows)) for place in range(len(head))]

    def line(cells: Sequence[str]) -> str:
        return "  ".join(
            cell.ljust(width) if place in left else cell.rjust(width)
            for place, (cell, width) in enumerate(zip(cells, widths, strict=True))
        ).rstrip()

    return "\n".join([line(head), "  ".join("-" * width for width in widths), *map(line, rows)])


def json_text(document: Any) -> str:
    """A document as JSON, in signs that the output can show."""
    plain = (getattr(sys.stdout, "encoding", None) or "utf-8").lower().startswith("utf")
    return json.dumps(document, ensure_ascii=not plain, indent=1, default=spoken)


def csv_text(document: Any, rows: str = "") -> str:
    """The table of a document as CSV: a head of the names in its JSON, a line each record.

    ``rows`` is where the table lies, dotted; a mapping of records has their keys first. What lies
    within a record has its names joined by dots, a list in it is parted by spaces.
    """
    for step in rows.split(".") if rows else ():
        document = document.get(step, ())
    if isinstance(document, Mapping):
        document = [{"key": key, **_as_row(item)} for key, item in document.items()]
    flat = [_flat(_as_row(item)) for item in document]
    heads = list(dict.fromkeys(name for row in flat for name in row))
    held = io.StringIO()
    writer = csv.DictWriter(held, heads, lineterminator="\n")
    writer.writeheader()
    writer.writerows(flat)
    return held.getvalue()


def _as_row(item: Any) -> Mapping[str, Any]:
    return item if isinstance(item, Mapping) else {"value": item}


def _flat(row: Mapping[str, Any], before: str = "") -> dict[str, Any]:
    found: dict[str, Any] = {}
    for name, value in row.items():
        if isinstance(value, Mapping):
            found.update(_flat(value, f"{before}{name}."))
        elif isinstance(value, list | tuple):
            found[before + name] = " ".join(map(_plain, value))
        else:
            found[before + name] = _plain(value)
    return found


def _plain(value: Any) -> str:
    """A value of a record as CSV has it."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, int | float):
        return repr(value)
    if isinstance(value, Mapping | list | tuple):
        return json.dumps(value, ensure_ascii=False, default=spoken)
    return spoken(value)
