"""``lumvak balance``: worked checks, ways, cycles and what is refused."""

import io
import json
from typing import Any

import pytest

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.spelling import spoken
from tests.conftest import BARROW

FOUR = "3.0Ah@66.6667%,3.0Ah@66.6667%,3.0Ah@66.6667%,3.0Ah@50%"
SMALL = "3.0Ah@100%,3.0Ah@100%,3.0Ah@100%,1.5Ah@100%"


def answer(capsys: pytest.CaptureFixture[str], *arguments: str) -> dict[str, Any]:
    assert main(["balance", *arguments, "--json"]) == 0
    found: dict[str, Any] = json.loads(capsys.readouterr().out)
    return found


@pytest.mark.parametrize(
    ("groups", "way", "usable", "cause"),
    [
        (FOUR, "--none", 2.5, "out-of-step"),
        (FOUR, "--top", 3.0, "out-of-step"),
        (FOUR, "--bottom", 3.0, "out-of-step"),
        (SMALL, "--none", 1.5, "small"),
        (SMALL, "--top", 1.5, "small"),
        (SMALL, "--bottom", 1.5, "small"),
    ],
)
def test_the_worked_checks(
    capsys: pytest.CaptureFixture[str], groups: str, way: str, usable: float, cause: str
) -> None:
    found = answer(capsys, "--groups", groups, way)
    assert found["usable_ah"] == pytest.approx(usable, abs=1e-5)
    assert found["cause"] == cause
    assert len(found["lost_top_ah"]) == len(found["lost_bottom_ah"]) == 4


def test_a_bleed_says_hours_and_heat(capsys: pytest.CaptureFixture[str]) -> None:
    found = answer(capsys, "--groups", "15Ah@50%,15Ah@50%,15Ah@48%", "--bleed", "60mA@4.15V")
    assert found["hours_to_even"] == pytest.approx(5.0)
    assert found["heat_w"] == pytest.approx(3 * 4.15 * 0.06, rel=1e-4)
    assert found["lost_top_ah"] == pytest.approx([0.0, 0.0, 0.3])
    none = answer(capsys, "--groups", "15Ah@50%,15Ah@48%")
    assert none["hours_to_even"] is None


def test_a_leak_between_charges_is_held_against_what_is_bled(
    capsys: pytest.CaptureFixture[str],
) -> None:
    """By hand: 2 mA for three days are 0.14 Ah; unplugged at once hardly anything is bled."""
    groups = ",".join(["15Ah@50%"] * 10)
    habit = ("--groups", groups, "--bleed", "60mA@4.18V", "--every", "3d")
    never = answer(capsys, *habit, "--leak", "4:2mA")
    assert never["hours_to_even"] is None
    assert never["evens_out"]["never"] and not never["evens_out"]["stop"]
    assert "group 4 falls behind" in never["evens_out"]["because"]
    assert "2 mA" in never["evens_out"]["would"]
    empties = answer(capsys, *habit, "--leak", "4:50mA")
    assert empties["evens_out"]["stop"]
    assert main(["balance", *habit, "--leak", "4:50mA"]) == 0
    assert "Stop: group 4 loses" in capsys.readouterr().out


def test_groups_bled_alike_never_even_out(capsys: pytest.CaptureFixture[str]) -> None:
    """5 % low, twenty hours on the charger: all stand over 4.15 V."""
    groups = ",".join([*["15Ah@50%"] * 9, "15Ah@45%"])
    found = answer(capsys, "--groups", groups, "--bleed", "60mA@4.1V", "--stays", "20h")
    assert found["hours_to_even"] is None
    assert "bled alike" in found["evens_out"]["because"]
    near = answer(capsys, "--groups", groups, "--bleed", "60mA@4.195V", "--stays", "20h")
    assert near["evens_out"]["days"] > 0.0
    assert near["hours_to_even"] == pytest.approx(0.05 * 15.0 / 0.06)


def test_a_project_and_its_window_have_one_answer(
    capsys: pytest.CaptureFixture[str], barrow: Project, catalogue: Catalogue
) -> None:
    found = answer(capsys, str(BARROW))
    balancing = evaluate(barrow, catalogue).charging.balancing
    assert found["hours_to_even"] == balancing.hours
    assert found["heat_w"] == pytest.approx(balancing.heat_w, abs=1e-5)
    assert found["evens_out"]["because"] == spoken(balancing.because)


def test_cycles_even_out_by_and_by(capsys: pytest.CaptureFixture[str]) -> None:
    groups = "15Ah@50%,15Ah@50%,15Ah@47%"
    found = answer(capsys, "--groups", groups, "--bleed", "500mA@4.18V", "--cycles", "3")
    given = [cycle["usable_ah"] for cycle in found["cycles"]]
    assert given == sorted(given)
    bare = answer(capsys, "--groups", groups, "--none", "--cycles", "3")
    assert bare["usable_ah"] < found["usable_ah"]


def test_a_mover_gives_more_than_the_smallest(capsys: pytest.CaptureFixture[str]) -> None:
    found = answer(capsys, "--groups", SMALL, "--active", "1A")
    assert 1.5 < found["usable_ah"] <= 2.625
    assert found["way"] == "active"


def test_a_project_s_own_groups(capsys: pytest.CaptureFixture[str]) -> None:
    found = answer(capsys, str(BARROW))
    assert found["heat_w"] > 0.0
    assert main(["balance", str(BARROW), "--cycles", "1"]) == 0
    assert "cycle 1:" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("--groups", "x"), "group 1"),
        (("--groups", "3Ah@80%,2Ah@120%"), "group 2"),
        (("--groups", "0Ah@80%"), "over 0 Ah"),
        (("--groups", FOUR, "--bleed", "60mA"), "no volts"),
        (("--groups", FOUR, "--bleed", "0A@4.15V"), "over 0 A"),
        (("--groups", FOUR, "--active", "0A"), "over 0"),
        (("--groups", FOUR, "--cycles", "-1"), "0 to 1000"),
        (("--groups", FOUR, "--bleed", "60mA@9V"), "up to 6 V"),
        (("--groups", FOUR, "--leak", "5mA"), "such as 4:5mA"),
        (("--groups", FOUR, "--leak", "9:5mA"), "1 to 4"),
        (("--groups", FOUR, "--stays", "2000h"), "0 to 1000"),
        (("--groups", FOUR, "--every", "often"), "often"),
    ],
)
def test_what_cannot_be_is_named(
    capsys: pytest.CaptureFixture[str], arguments: tuple[str, ...], says: str
) -> None:
    assert main(["balance", *arguments]) == 2
    assert says in capsys.readouterr().err


def test_a_batch_answers_line_by_line(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    lines = (
        json.dumps({"groups": FOUR}),
        json.dumps({"groups": FOUR, "way": "top"}),
        json.dumps(
            {"groups": [{"ah": 3.0, "share": 1.0}, {"ah": 1.5, "share": 1.0}], "way": "active"}
        ),
        "[]",
        json.dumps({"groups": FOUR, "way": "up"}),
    )
    monkeypatch.setattr("sys.stdin", io.StringIO("\n".join(lines) + "\n"))
    assert main(["balance", "--batch"]) == 2
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [round(item.get("usable_ah", -1.0), 2) for item in found[:2]] == [2.5, 3.0]
    assert 1.5 < found[2]["usable_ah"] <= 2.25
    assert all("error" in item for item in found[3:])
