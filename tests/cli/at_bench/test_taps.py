"""``lumvak taps``: readings judged, cases in a row, and what cannot be meant."""

import io
import json
from pathlib import Path
from typing import Any

import pytest

from lumvak.cli.main import main
from tests.conftest import DEMOS

GROUPS = "3.71,3.70,3.69"


def run(capsys: pytest.CaptureFixture[str], readings: str, *more: str) -> tuple[int, Any, str]:
    status = main(["taps", "--groups", GROUPS, f"--readings={readings}", "--json", *more])
    out, error = capsys.readouterr()
    return status, json.loads(out) if out else {}, error


def test_a_right_harness_is_safe_and_a_swap_is_named(capsys: pytest.CaptureFixture[str]) -> None:
    status, found, _ = run(capsys, "0,3.71,7.40,11.10")
    assert (status, found["safe"], found["leads"]) == (1, False, "open-question")
    asked = found["next_reading"]
    assert (asked["from"], asked["to"]) == (0, 1) and "lead 0 to lead 1" in asked["why"]
    status, found, _ = run(capsys, "0,3.71,7.40,11.10", "--more", "0-1=3.71")
    assert (status, found["safe"], found["leads"]) == (0, True, "right")
    assert found["hypotheses"][0]["name"] == "right"
    assert [item["verdict"] for item in found["groups"]] == ["told"] * 3
    status, found, _ = run(capsys, "0,3.71,7.40,11.10", "--more", "0-plus=11.1")
    assert status == 0 and found["safe"]
    status, found, _ = run(capsys, "0,3.71,7.40,11.10", "--more", "0-1=0.0")
    assert (status, found["hypotheses"][0]["name"]) == (1, "open")
    _, _, error = run(capsys, "0,3.71,7.40,11.10", "--more", "0:1")
    assert "accepted: such as 0-1=3.65" in error
    _, _, error = run(capsys, "0,3.71,7.40,11.10", "--more", "0-9=3.7")
    assert "there is no lead 9" in error
    status, found, _ = run(capsys, "0;7,41;3,70;11,10")
    assert (status, found["safe"]) == (1, False)
    only = found["hypotheses"][0]
    assert (only["name"], only["leads"], only["joints"]) == ("swapped", [1, 2], [0, 2, 1, 3])
    assert found["words"].startswith("Do not plug in. Leads 1 and 2 are swapped.")
    _, found, _ = run(capsys, "0,3.71,open,11.10", "--meter", "0.1%")
    assert [item["name"] for item in found["hypotheses"]] == ["open"]
    _, found, _ = run(capsys, "0,3.71,3.71,7.41")
    assert found["next_reading"]["from"] == 3
    assert found["next_reading"]["to"] == "plus"
    assert set(found["next_reading"]["decides"]) == {"shifted", "flat-group"}


@pytest.mark.parametrize(
    ("readings", "said"),
    [
        ("3.71,7.40,11.10", "3 readings for 4 leads"),
        ("0,3.71,7.40,11.10,14.8", "5 readings for 4 leads"),
        ("0,x,7.40,11.10", "reading 1: “x” is no voltage"),
        ("0,inf,7.40,11.10", "reading 1: “inf” is no voltage"),
        ("0,3710,7400,11100", "millivolts may be meant: 3.71 V"),
        ("0,-3.71,7.40,11.10", "lead 1 reads −3.71 V; accepted: 0 or more"),
    ],
)
def test_what_cannot_be_meant_is_said(
    capsys: pytest.CaptureFixture[str], readings: str, said: str
) -> None:
    status, found, error = run(capsys, readings)
    assert status == 2
    assert not found
    assert said in error


def test_groups_and_meter_are_looked_at_too(capsys: pytest.CaptureFixture[str]) -> None:
    for groups, meter, said in (
        ("3710,3700", "0.5%+2d", "millivolts may be meant: 3.71 V"),
        ("0,3.7", "0.5%+2d", "group 1: 0 V; accepted"),
        ("3.7,y", "0.5%+2d", "group 2: “y” is no voltage"),
        ("3.7,3.7", "good", "accepted: such as 0.5%+2d"),
        ("3.7,3.7", "40%", "is no meter"),
    ):
        status = main(["taps", "--groups", groups, "--readings", "0,3.7,7.4", "--meter", meter])
        assert status == 2
        assert said in capsys.readouterr().err
    # A first group the wrong way round reads under nothing, and is explained.
    assert main(["taps", "--groups", GROUPS, "--readings=0,-3.71,0,3.69"]) == 1
    assert "Group 1 is the wrong way round" in capsys.readouterr().out


def test_a_case_a_line(capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch) -> None:
    lines = [
        {"groups": [3.7, 3.7, 3.7], "readings": [0, 3.7, None, 11.1]},
        {
            "groups": [3.7, 3.7, 3.7],
            "readings": [0, 3.7, 3.7, 7.4],
            "meter_percent": 0.5,
            "meter_digits": 2,
            "resolution_v": 0.01,
            "more": [{"from": 3, "to": "main+", "volts": 3.7}],
        },
        {"groups": [3.7, 3.7], "readings": [0, 3.7]},
        {"groups": [3.7, 3.7], "readings": [0, "low", 7.4]},
        {
            "groups": [3.7, 3.7],
            "readings": [0, 3.7, 7.4],
            "more": [{"from": 9, "to": 0, "volts": 1.0}],
        },
    ]
    text = "\n".join([*map(json.dumps, lines), "", "no JSON"])
    monkeypatch.setattr("sys.stdin", io.StringIO(text))
    assert main(["taps", "--batch"]) == 2
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [item["name"] for item in found[0]["hypotheses"]] == ["open"]
    assert [item["name"] for item in found[1]["hypotheses"]] == ["shifted"]
    assert "2 readings for 3 leads" not in found[1]["words"]
    for item, said in zip(
        found[2:], ("2 readings", "“low” is no number", "no lead 9", "no case"), strict=True
    ):
        assert said in item["error"]


def test_a_project_has_its_guide_and_its_readings(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    file = str(DEMOS / "orchard-barrow.lumvak.json")
    assert main(["taps", file, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    leads = found["guide"]["leads"]
    assert [item["number"] for item in leads] == list(range(len(leads)))
    assert "safe" not in found
    assert main(["taps", file]) == 0
    assert "Main minus first" in capsys.readouterr().out
    right = [round(item["expected_v"], 2) for item in leads]
    readings = ",".join(map(str, [right[0], right[2], right[1], *right[3:]]))
    assert main(["taps", file, "--readings", readings, "--json"]) == 1
    found = json.loads(capsys.readouterr().out)
    assert found["hypotheses"][0]["leads"] == [1, 2]
    assert main(["taps", file, "--readings", "0,3.7"]) == 2
    assert "2 readings for" in capsys.readouterr().err
    assert main(["taps", str(tmp_path / "none.json")]) == 2
    assert main(["taps", file, "--groups", "3.7"]) == 2
