"""``lumvak spec``: windows as text and as JSON, and a part held against them."""

import io
import json

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW

FILE = str(BARROW)


def said(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str]:
    status = main(["spec", *words])
    return status, capsys.readouterr().out


def test_windows_as_json(capsys: pytest.CaptureFixture[str]) -> None:
    status, out = said(capsys, FILE, "--json")
    found = json.loads(out)
    assert status == 0 and found["contradictions"] == []
    parts = {part["part"]: part for part in found["parts"]}
    series = next(item for item in parts["bms"]["figures"] if item["name"] == "series")
    assert (series["least"], series["most"], series["tight"]) == (14, 14, "both")
    assert parts["leads"]["unit"] == "m"
    status, out = said(capsys, FILE, "--part", "fuse", "--json")
    assert [part["part"] for part in json.loads(out)["parts"]] == ["fuse"]


def test_windows_as_text(capsys: pytest.CaptureFixture[str]) -> None:
    status, out = said(capsys, FILE)
    assert status == 0
    for words in ("main leads", "Continuous current", "26.4 A", "switch (need not be there)"):
        assert words in out


def test_a_part_is_held_against_them(capsys: pytest.CaptureFixture[str]) -> None:
    check = "bms:series=14,continuous_a=20 A,peak_a=60,kind=full"
    status, out = said(capsys, FILE, "--check", check, "--json")
    found = json.loads(out)
    assert status == 1
    assert found["holds"] == ["series", "kind", "stages"]
    assert [(item["name"], item["by"]) for item in found["short"]] == [("continuous_a", 2.0)]
    status, out = said(capsys, FILE, "--check", "fuse:rating_a=32,form=bolt")
    assert status == 0 and "not known: " in out and "continuous" in out


@pytest.mark.parametrize(
    ("check", "words"),
    [
        ("wheel:series=14", "“wheel” is no part"),
        ("bms", "is no part"),
        ("bms:amps=3", "“amps” is no figure of it"),
        ("bms:series=many", "“many”"),
    ],
)
def test_what_cannot_be_read_is_said(
    capsys: pytest.CaptureFixture[str], check: str, words: str
) -> None:
    with pytest.raises(SystemExit) as ended:
        main(["spec", FILE, "--check", check])
    assert ended.value.code == 2
    assert words in capsys.readouterr().err


def test_a_contradiction_ends_with_1(capsys: pytest.CaptureFixture[str], tmp_path: object) -> None:
    from pathlib import Path

    document = json.loads(BARROW.read_text("utf-8"))
    document["need"] |= {"peak_current_a": 150.0, "peak_duration_s": 5.0, "controller_limit_a": 200}
    document["leads"] = {"area_mm2": 1.5}
    file = Path(str(tmp_path)) / "thin.lumvak.json"
    file.write_text(json.dumps(document), "utf-8")
    status, out = said(capsys, str(file), "--json")
    found = json.loads(out)["contradictions"]
    assert status == 1 and found[0]["part"] == "fuse"
    assert found[0]["changes"][0]["set"]["leads.area_mm2"] > 1.5
    status, out = said(capsys, str(file))
    assert "What would open it: AWG " in out


def test_a_batch_answers_line_by_line(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    cases = [
        {"file": FILE, "part": "bms"},
        {"file": FILE, "check": "bms:series=13"},
        {"file": "no"},
    ]
    monkeypatch.setattr("sys.stdin", io.StringIO("\n".join(map(json.dumps, cases))))
    status, out = said(capsys, "--batch")
    one, two, three = map(json.loads, out.splitlines())
    assert one["parts"][0]["part"] == "bms"
    assert two["short"][0]["name"] == "series"
    assert "error" in three and status == 2
