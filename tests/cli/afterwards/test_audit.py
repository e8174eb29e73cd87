"""``lumvak audit`` as somebody runs it who scripts."""

import io
import json
from pathlib import Path

import pypdf
import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW, DEMOS

TEDDER = DEMOS / "hay-tedder.lumvak.json"


def test_a_salvaged_pack(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["audit", str(TEDDER), "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    steady = found["rating"]["continuous_a"]
    assert steady["low"] < steady["value"] < steady["high"] < found["promised_a"] / 1.9
    assert found["set_by"] == "series-joints" and found["verdict"] == "use-within"
    cells = next(it for it in found["parts"] if it["key"] == "cells")
    # Its joints halve what its cells could give.
    assert steady["value"] < 0.5 * cells["value"]
    holds = found["capacity_ah"]
    assert holds["low"] < holds["value"] < holds["high"] < found["promised_ah"]
    assert found["reasons"] and all(isinstance(it, str) for it in found["reasons"])
    first = found["upgrades"][0]
    assert "one strip more" in first["what"] and first["to_a"] > 1.5 * steady["value"]
    assert first["cost"] > 0.0
    settles = [it["settles"] for it in found["unknown"]]
    assert all(0.0 <= it <= 1.0 for it in settles) and found["unknown"][0]["what"]


def test_to_read(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["audit", str(TEDDER)]) == 0
    out = capsys.readouterr().out
    assert "Sold as 40 A: 16.6 A, set by its series connections" in out
    assert "There is no main fuse" in out and "What would strengthen it" in out


@pytest.mark.parametrize("suffix", [".pdf", ".html"])
def test_one_page_for_its_owner(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, suffix: str
) -> None:
    out = tmp_path / f"page{suffix}"
    assert main(["audit", str(TEDDER), "-o", str(out)]) == 0
    if suffix == ".pdf":
        pages = pypdf.PdfReader(io.BytesIO(out.read_bytes())).pages
        assert len(pages) == 1
        text = pages[0].extract_text()
    else:
        text = out.read_text("utf-8")
    assert "May be used within these limits" in text and "There is no main fuse" in text
    assert "local rules" in text and "16.6 A" in text


def test_what_is_no_good(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    assert main(["audit", str(tmp_path / "none.lumvak.json")]) == 2
    capsys.readouterr()
    assert main(["audit", str(BARROW)]) == 2
    assert "begins from a need" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["audit"])
    for name in ("page.txt", "other.lumvak.json"):
        with pytest.raises(SystemExit):
            main(["audit", str(TEDDER), "-o", str(tmp_path / name)])


def test_a_line_for_each_pack(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    lines = '{"as_found": {"state": "swollen"}}\n{"as_found": {"metal": "wood"}}\n{}\n'
    monkeypatch.setattr("sys.stdin", io.TextIOWrapper(io.BytesIO(lines.encode())))
    assert main(["audit", "--batch"]) == 2
    rows = [json.loads(it) for it in capsys.readouterr().out.splitlines()]
    assert rows[0]["verdict"] == rows[0]["verdict_at_best"] == "recycle"
    assert "accepted: 'plated steel'" in rows[1]["error"] and "error" in rows[2]
