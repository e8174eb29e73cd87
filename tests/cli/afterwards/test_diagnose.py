"""``lumvak diagnose`` as somebody runs it who scripts."""

import io
import json

import pytest

from lumvak.cli.main import main
from tests.conftest import BARROW, DEMOS

JUMPS = ("--reading", "terminals=jumps", "--reading", "pack=51.4V", "--reading", "groups=alike")


def found_by(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, dict[str, object]]:
    code = main(["diagnose", *words, "--json"])
    return code, json.loads(capsys.readouterr().out)


def test_three_readings_name_the_bms(capsys: pytest.CaptureFixture[str]) -> None:
    code, found = found_by(capsys, "--series", "14", "--complaint", "jumps", *JUMPS)
    causes = found["causes"]
    assert isinstance(causes, list) and causes[0]["name"] == "bms-leaky"
    assert {"where", "probability", "for", "against", "mend"} <= set(causes[0])
    wanted = found["next"]
    assert isinstance(wanted, dict) and wanted["gain_bits"] > 0.0 and wanted["how"]
    assert code == 1 and found["enough"] is False


def test_a_dead_charger_is_enough(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("--series", "5", "--complaint", "no-charge", "--reading", "charger=nothing")
    code, found = found_by(capsys, *words)
    assert code == 0 and found["enough"] and found["next"] is None
    assert found["do"] == "another certified charger"


def test_a_low_group_has_its_place(capsys: pytest.CaptureFixture[str]) -> None:
    row = ",".join("3.2V" if at == 2 else "3.7V" for at in range(5))
    words = ("--series", "5", "--complaint", "low-group", "--reading", f"groups={row}")
    causes = found_by(capsys, *words)[1]["causes"]
    assert isinstance(causes, list) and causes[0]["where"] == "group:3"


def test_a_project_brings_its_readings(capsys: pytest.CaptureFixture[str]) -> None:
    dinghy = str(DEMOS / "mill-race-dinghy.lumvak.json")
    assert main(["diagnose", dinghy, "--complaint", "jumps"]) == 1
    out = capsys.readouterr().out
    assert "read: the terminals" in out and "the output switch of the BMS is half on" in out
    assert "Read next: " in out
    assert main(["diagnose", str(BARROW), "--complaint", "dead", "--without", "shown"]) == 1


def test_a_meter_counts_beside_a_project(capsys: pytest.CaptureFixture[str]) -> None:
    """A meter of 15 % says less of groups that read 30 mV apart than one of 0.1 %."""
    rows = ",".join(["3.71V"] * 13 + ["3.68V"])
    words = (str(BARROW), "--complaint", "short-range", "--reading", f"groups={rows}")
    shares = []
    for meter in ("0.1%+1", "15%+50"):
        _, found = found_by(capsys, *words, "--meter", meter)
        causes = found["causes"]
        assert isinstance(causes, list)
        shares.append(sum(it["probability"] for it in causes if it["where"] == "group:14"))
    assert shares[0] > 1.5 * shares[1]


@pytest.mark.parametrize(
    "words",
    [
        ("--reading", "group:9=3.7V"),
        ("--reading", "terminals"),
        ("--reading", "pack@loud=3V"),
        ("--reading", "pack=much"),
        ("--reading", "groups=3.7V,3.7V"),
        ("--meter", "good"),
        ("--chemistry", "coal"),
    ],
)
def test_what_is_no_good_says_why(
    capsys: pytest.CaptureFixture[str], words: tuple[str, ...]
) -> None:
    assert main(["diagnose", "--series", "5", "--complaint", "dead", *words]) == 2
    assert "accepted" in capsys.readouterr().err


def test_values_have_units(capsys: pytest.CaptureFixture[str]) -> None:
    words = ("--reading", "fuse=1.6mohm", "--reading", "joint:2@load:10=0.3mV", "--meter", "0.8%+3")
    code, found = found_by(capsys, "--series", "5", "--complaint", "dead", *words)
    causes = found["causes"]
    assert isinstance(causes, list)
    fuse = next((it for it in causes if it["name"] == "fuse-open"), {"probability": 0.0})
    assert fuse["probability"] < 0.02 and code == 1


def test_line_by_line(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    lines = (
        '{"series": 14, "complaint": "jumps", "readings": ["terminals=jumps"]}\n'
        '{"series": 14, "complaint": "sad"}\n'
    )
    monkeypatch.setattr("sys.stdin", io.TextIOWrapper(io.BytesIO(lines.encode())))
    assert main(["diagnose", "--batch"]) == 2
    rows = [json.loads(it) for it in capsys.readouterr().out.splitlines()]
    assert rows[0]["causes"][0]["name"] == "bms-leaky" and "accepted" in rows[1]["error"]
    with pytest.raises(SystemExit):
        main(["diagnose"])
