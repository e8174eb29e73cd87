"""Files are told by what they hold, whatever they are called."""

from pathlib import Path

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.charging import LogRow
from lumvak.core.document.hand import HandCell
from lumvak.files.contents import Content, contents_of
from lumvak.files.logs.charge_log import log_csv
from lumvak.files.own_parts import cells_csv
from lumvak.files.problem import FileProblem
from lumvak.files.readings_file import readings_csv
from tests.conftest import BARROW

SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="200mm" viewBox="0 0 300 200">'
    '<rect x="0" y="0" width="300" height="200"/></svg>'
)
DXF = "  0\nSECTION\n  2\nENTITIES\n  0\nENDSEC\n  0\nEOF\n"
TESTER = "time;voltage;current\n" + "".join(
    f"{at * 60};{4.1 - at * 0.1:.2f};2.0\n" for at in range(12)
)
VOLTS = "time;g1;g2;g3\n2026-05-01 10:00;3.71;3.70;3.72\n2026-05-02 10:00;3.70;3.70;3.71\n"


def told(folder: Path, text: str, name: str = "it.csv") -> tuple[Content, ...]:
    path = folder / name
    path.write_text(text, "utf-8")
    return contents_of(path, 3)


def test_what_is_written_here_is_told(tmp_path: Path, catalogue: Catalogue) -> None:
    cells = (HandCell(number=1, volts=3.6, ah=2.4), HandCell(number=2, volts=3.61, ah=2.5))
    assert told(tmp_path, readings_csv(cells))[0] == "readings"
    rows = tuple(
        LogRow(seconds=60.0 * at, volts=11.0 + 0.1 * at, amps=2.0, groups=()) for at in range(5)
    )
    assert "charge" in told(tmp_path, log_csv(rows))
    assert told(tmp_path, cells_csv([*catalogue.cells.values()]))[0] == "cells"
    assert told(tmp_path, BARROW.read_text("utf-8"), "pack.txt") == ("project",)


@pytest.mark.parametrize(
    ("text", "content"),
    [(SVG, "outline"), (DXF, "outline"), (TESTER, "tester"), (VOLTS, "voltages")],
)
def test_what_others_write_is_told(tmp_path: Path, text: str, content: Content) -> None:
    for name in ("it.txt", "it.csv", "it"):
        assert content in told(tmp_path, text, name)


@pytest.mark.parametrize("text", ["", "a line of words", "one,two\nthree,four\n", "\0\1\2"])
def test_what_nobody_knows_is_nothing(tmp_path: Path, text: str) -> None:
    try:
        assert told(tmp_path, text) == ()
    except FileProblem as problem:
        assert "it.csv" in str(problem)


def test_a_document_is_for_its_own_reader_to_judge(tmp_path: Path) -> None:
    assert told(tmp_path, '{"format": "lumvak-project", ', "cut.txt") == ("project",)
    assert told(tmp_path, "not JSON", "it.json") == ("project",)
    assert told(tmp_path, '{"format": "lumvak-parts", "version": 1}', "own.txt") == ("parts",)
