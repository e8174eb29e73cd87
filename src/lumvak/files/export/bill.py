"""The bill of materials as a table."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from lumvak.core.record_of_pack.bill import BillLine
from lumvak.core.spelling import PLAIN, Spelling, spoken

HEADS = ("what", "count", "unit", "cost", "in_hand", "note")


def bill_csv(lines: Iterable[BillLine], spelling: Spelling = PLAIN) -> str:
    """A line for each thing; the cost is empty where nobody knows it."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADS)
    for line in lines:
        cost = "" if line.cost is None else f"{line.cost:.2f}"
        what, note = (spoken(it, spelling) for it in (line.what, line.note))
        table.writerow([what, f"{line.count:g}", line.unit, cost, line.in_hand or "", note])
    return out.getvalue()
