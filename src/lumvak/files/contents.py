"""What a file holds, told by its content: which of the readers here can make something of it."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Literal

from lumvak.files.logs.charge_log import read_charge_log
from lumvak.files.logs.duty_log import read_duty_log
from lumvak.files.logs.tester_log import is_tester_log, read_tester_log
from lumvak.files.logs.volts_log import read_volts
from lumvak.files.own_parts import is_cells_csv
from lumvak.files.problem import FileProblem, read_text
from lumvak.files.readings_file import read_readings

Content = Literal["project", "parts", "outline", "readings", "tester", "charge", "voltages",
                  "duty", "cells"]  # fmt: skip


# So many signs are looked at to tell text from a drawing or a document.
HEAD = 4000


def drawing_in(text: str) -> str:
    """The usual suffix of the drawing that a text holds; empty where it holds none."""
    head = text[:HEAD]
    if "<svg" in head:
        return ".svg"
    lines = [line.strip() for line in head.splitlines()[:40]]
    return ".dxf" if "SECTION" in lines and "0" in lines else ""


def contents_of(path: Path, groups: int) -> tuple[Content, ...]:
    """What a file may be taken for, the likeliest first; nothing where no reader knows it.

    ``groups`` is how many the pack has, for tables of their voltages. Raises FileProblem where the
    file cannot be read. What is written as a document is a project, for its reader to judge.
    """
    text = read_text(path)
    head = text[:HEAD].lstrip("\ufeff \t\r\n")
    if head.startswith("{") or path.name.endswith(".json"):
        return ("parts",) if '"lumvak-parts"' in head else ("project",)
    if drawing_in(text):
        return ("outline",)
    return tuple(_tables(text, path.name, groups))


def _tables(text: str, where: str, groups: int) -> Iterator[Content]:
    """Every kind of table that the text is, by trying."""
    tries: tuple[tuple[Content, Callable[[], object]], ...] = (
        ("readings", lambda: read_readings(text, where)),
        ("cells", lambda: is_cells_csv(text)),
        ("charge", lambda: read_charge_log(text, where, groups)),
        ("voltages", lambda: read_volts(text, where, groups)),
        ("tester", lambda: is_tester_log(text) and read_tester_log(text, where)),
        ("duty", lambda: read_duty_log(text, where, "A")),
    )
    for content, read in tries:
        with contextlib.suppress(FileProblem):
            if read() is not False:
                yield content
