"""What `lumvak size` says beside its table: what can hurt, and what nobody gave."""

import json
from typing import Any

import pytest

from lumvak.cli.main import main

HIGH = ["size", "--rated-voltage", "72V", "--current", "40A", "--runtime", "1h", "--top", "1"]
GIVEN = [
    "size", "--rated-voltage", "36V", "--max-voltage", "43V", "--cutoff-voltage", "30V",
    "--current", "18A", "--peak", "40A:8s", "--runtime", "1h", "--ambient", "5C:30C", "--top", "1",
]  # fmt: skip


def lines(capsys: pytest.CaptureFixture[str], *given: str) -> tuple[int, list[str]]:
    status = main(list(given))
    return status, capsys.readouterr().out.splitlines()


def option(capsys: pytest.CaptureFixture[str], *given: str) -> dict[str, Any]:
    main([*given, "--json"])
    found: dict[str, Any] = json.loads(capsys.readouterr().out)["options"][0]
    return found


def test_what_can_hurt_stands_under_the_table(capsys: pytest.CaptureFixture[str]) -> None:
    status, said = lines(capsys, *HIGH)
    told = [line for line in said if line.startswith("caution, of the first: ")]
    assert status == 0
    assert any(
        "79.8 V when full is more than is usually treated as touch-safe" in line
        and "a competent person" in line
        for line in told
    )
    assert {"over-60-v", "power-over-60-v"} <= {
        item["code"] for item in option(capsys, *HIGH)["cautions"]
    }
    _, low = lines(capsys, *GIVEN)
    assert not any("touch-safe" in line for line in low)


def test_what_was_assumed_is_a_line_and_all_of_it_where_asked(
    capsys: pytest.CaptureFixture[str],
) -> None:
    _, said = lines(capsys, *HIGH)
    (line,) = [line for line in said if line.startswith("assumed: ")]
    keys = option(capsys, *HIGH)["assumed"]
    assert "maximum voltage 84 V; low-voltage cut-off 57.6 V" in line
    assert f"and {len(keys) - 5} more (--assumed lists all)" in line
    _, every = lines(capsys, *HIGH, "--assumed")
    listed = [line for line in every if line.startswith("assumed: ")]
    assert sorted(line.partition("(")[2].partition(")")[0] for line in listed) == keys
    assert "low-voltage cut-off 57.6 V (need.stop_voltage_v): 0.8 × rated voltage" in "".join(
        listed
    )
    # What is given is not called assumed.
    _, given = lines(capsys, *GIVEN, "--assumed")
    assert not any("(need." in line for line in given if line.startswith("assumed: "))


def test_the_first_option_says_what_to_look_for(capsys: pytest.CaptureFixture[str]) -> None:
    given = [
        "--rated-voltage",
        "36V",
        "--current",
        "18A",
        "--runtime",
        "1h",
        "--top",
        "1",
        "--json",
    ]
    assert main(["size", *given]) == 0
    found = json.loads(capsys.readouterr().out)
    parts = {part["part"]: part for part in found["specification"]}
    series = next(it for it in parts["bms"]["figures"] if it["name"] == "series")
    assert series["least"] == found["options"][0]["series"]


def test_a_need_that_nothing_serves_ends_with_1(capsys: pytest.CaptureFixture[str]) -> None:
    """No cell gives as much in any number that is looked at."""
    given = ["size", "--rated-voltage", "48V", "--current", "900A", "--runtime", "1h", "--top", "1"]
    status, said = lines(capsys, *given)
    assert status == 1
    assert said[0] == "Nothing serves:"
