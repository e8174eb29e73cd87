"""The bill as a table, read by another reader."""

import csv
import io

from lumvak.core.record_of_pack.bill import BillLine
from lumvak.files.export.bill import HEADS, bill_csv


def test_a_cost_that_nobody_knows_stays_empty() -> None:
    lines = (BillLine("cell, large", 12, cost=30.0, in_hand=3), BillLine("tape", 1.5, "m"))
    rows = list(csv.DictReader(io.StringIO(bill_csv(lines))))
    assert tuple(rows[0]) == HEADS
    assert (rows[0]["what"], rows[0]["cost"], rows[0]["in_hand"]) == ("cell, large", "30.00", "3")
    assert (rows[1]["count"], rows[1]["unit"], rows[1]["cost"]) == ("1.5", "m", "")
