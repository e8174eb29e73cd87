"""The settings sheet of a board, as a file to have beside while typing it in."""

from __future__ import annotations

import csv
import io
import json
from pathlib import Path

from lumvak.core.evaluation import Evaluation
from lumvak.core.spelling import PLAIN, Spelling
from lumvak.files.power_records import settings_rows
from lumvak.files.problem import write_atomically
from lumvak.files.spreadsheet import harmless_row

SETTINGS_FORMATS = ("csv", "json")


def settings_text(evaluation: Evaluation, to: str, spelling: Spelling = PLAIN) -> str:
    """The settings sheet in a format of SETTINGS_FORMATS."""
    rows = settings_rows(evaluation, spelling)
    board = evaluation.power.board
    if to == "json":
        document = {
            "board": None if board is None else board.id,
            "pack": evaluation.project.name,
            "settings": rows,
        }
        return json.dumps(document, ensure_ascii=False, indent=1) + "\n"
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    heads = list(rows[0]) if rows else []
    writer.writerow(heads)
    writer.writerows(
        harmless_row("" if row[head] is None else row[head] for head in heads) for row in rows
    )
    return out.getvalue()


def write_settings(evaluation: Evaluation, path: Path, spelling: Spelling = PLAIN) -> None:
    """Write the settings sheet, as JSON where the file is named so, else as CSV.

    Raises FileProblem, and then writes nothing.
    """
    to = "json" if path.suffix.lower() == ".json" else "csv"
    write_atomically(path, settings_text(evaluation, to, spelling))
