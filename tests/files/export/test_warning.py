"""A pack that must not be built says so on everything that leaves, read back by other readers."""

import csv
import io
from pathlib import Path
from xml.etree import ElementTree as ET

import ezdxf
import pypdf
import pytest

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.matching.matched import place_name
from lumvak.files.export.formats import exported
from lumvak.files.export.warning import warning_of
from lumvak.files.project_file import project_text

SMALL = {"arrangement.room.length_mm": 200.0}
SHORT = {"joints.group.part": "nickel-0.2x15", "joints.group.width_mm": 30.0}


@pytest.fixture(scope="module", params=[SMALL, SHORT], ids=["too small", "a short"])
def unfit(
    request: pytest.FixtureRequest, catalogue: Catalogue, demos: dict[str, Project]
) -> Evaluation:
    seats = tuple(
        {"number": place + 1, "cell": place_name(*divmod(place, 7))} for place in range(98)
    )
    cells = tuple({"number": place + 1} for place in range(98))
    changes = {**request.param, "hand.placed": seats, "hand.cells": cells}
    return evaluate(with_values(demos["barrow"], changes), catalogue)


def test_every_page_and_every_file_says_so(unfit: Evaluation, tmp_path: Path) -> None:
    warning = warning_of(unfit)
    assert warning.startswith("DO NOT BUILD: ")
    for to in ("pdf", "placing", "wiring"):
        for page in pypdf.PdfReader(io.BytesIO(exported(unfit, to))).pages:
            assert "DO NOT BUILD" in page.extract_text(), to
    for to in ("svg", "wiring-svg"):
        texts = [item.text or "" for item in ET.fromstring(exported(unfit, to)).iter()]
        assert warning in texts
    path = tmp_path / "pack.dxf"
    path.write_bytes(exported(unfit, "dxf"))
    told = ezdxf.readfile(path).modelspace().query('TEXT[layer=="WARNING"]')  # type: ignore[attr-defined]
    assert len(told) == 2 and told[0].dxf.text == warning
    rows = list(csv.reader(io.StringIO(exported(unfit, "csv").decode("utf-8-sig"))))
    assert rows[0] == ["warning", warning]


def test_the_command_ends_with_1_and_writes_all_the_same(
    unfit: Evaluation, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "pack.lumvak.json"
    path.write_text(project_text(unfit.project), "utf-8")
    assert main(["export", str(path), "--to", "svg"]) == 1
    assert "DO NOT BUILD" in capsys.readouterr().err
    assert (tmp_path / "pack.svg").exists()


def test_a_sound_pack_says_nothing(evaluation: Evaluation) -> None:
    assert warning_of(evaluation) == ""
    assert b"DO NOT BUILD" not in exported(evaluation, "svg")
    # With its mark in front a spreadsheet reads it as what it is.
    assert exported(evaluation, "csv").startswith(b"\xef\xbb\xbf")
