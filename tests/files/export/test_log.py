"""The log as a table, read by another reader."""

import csv
import io

from lumvak.files.export.log import HEADS, log_csv
from tests.core.record_of_pack.test_log import entry


def test_each_entry_is_a_line() -> None:
    rows = list(csv.DictReader(io.StringIO(log_csv((entry("a" * 8), entry("b" * 8))))))
    assert [row["id"] for row in rows] == ["a" * 8, "b" * 8]
    assert tuple(rows[0]) == HEADS and rows[0]["group"] == ""
