"""``lumvak label`` and ``lumvak passport``, one after the other."""

import json
import shutil
from pathlib import Path

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW


def test_a_label_is_written_and_read_back_into_a_project(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    label, project = tmp_path / "label.png", tmp_path / "new.lumvak.json"
    assert main(["label", str(BARROW), "-o", str(label), "--size", "110x70mm"]) == 0
    capsys.readouterr()
    assert main(["passport", str(label), "-o", str(project), "--json"]) == 0
    claimed = json.loads(capsys.readouterr().out)["claimed"]
    assert claimed["series"] > 1 and claimed["standing"] == "assumed"
    held = json.loads(project.read_text("utf-8"))
    assert held["record"]["claimed"][0]["name"] == held["name"] == claimed["name"]
    assert held["pack"]["series"] == claimed["series"]
    assert main(["passport", str(label), "-o", str(project)]) == 2
    assert "--force writes over it" in capsys.readouterr().err
    assert main(["passport", str(label), "-o", str(project), "--force"]) == 0


def test_what_cannot_be_is_said_and_nothing_is_written(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    label = tmp_path / "label.svg"
    assert main(["label", str(BARROW), "-o", str(label), "--size", "30x20"]) == 2
    assert "fits on" in capsys.readouterr().err and not label.exists()
    assert main(["label", str(BARROW), "-o", str(label), "--charger"]) == 0 and label.exists()
    assert main(["passport", str(label)]) == 2
    assert "no code is drawn" in capsys.readouterr().err
    for words in (["-o", str(tmp_path / "x.doc")], ["-o", str(label), "--size", "big"]):
        with pytest.raises(SystemExit):
            main(["label", str(BARROW), *words])


def test_a_report_is_written_without_what_is_left_out(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    page = tmp_path / "report.html"
    assert main(["report", str(BARROW), "-o", str(page), "--without", "bill,wiring"]) == 0
    text = page.read_text("utf-8")
    assert 'id="cells"' in text and 'id="bill"' not in text and "NOT PROVEN" in text
    sheet = tmp_path / "report.pdf"
    assert main(["report", str(BARROW), "-o", str(sheet), "--paper", "letter"]) == 0
    assert sheet.read_bytes().startswith(b"%PDF")
    for words in (["-o", "x.txt"], ["-o", str(page), "--without", "moon"]):
        with pytest.raises(SystemExit):
            main(["report", str(BARROW), *words])
    assert "accepted: need, cells" in capsys.readouterr().err


def test_the_shelf_lists_what_is_there(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    shutil.copy(BARROW, tmp_path / "barrow.lumvak.json")
    assert main(["shelf", str(tmp_path), "--json"]) == 0
    (told,) = json.loads(capsys.readouterr().out)
    assert told["name"] == "Orchard barrow" and told["problem"] == ""
    (tmp_path / "x.lumvak.json").write_text("{")
    assert main(["shelf", str(tmp_path), "--sort", "due", "--find", "orchard"]) == 0
    assert "Orchard barrow" in capsys.readouterr().out
    assert main(["shelf", str(tmp_path)]) == 1
    assert "x.lumvak.json" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["shelf", str(tmp_path / "nowhere")])
