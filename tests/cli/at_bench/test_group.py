"""``lumvak group``: a table dealt into groups, cases in a row, and what is missing."""

import io
import json
from itertools import chain
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from lumvak.cli.main import main


def table(tmp_path: Path, count: int, spoil: dict[int, str] | None = None) -> Path:
    chance = np.random.default_rng(5)
    lines = ["number;volts;ah;mohm;g"]
    for number in range(1, count + 1):
        line = (
            f"{number};{chance.normal(3.61, 0.004):.3f};{chance.normal(4.68, 0.05):.3f};"
            f"{chance.normal(21.0, 0.6):.1f};{chance.normal(68.0, 0.2):.1f}"
        )
        lines.append((spoil or {}).get(number, line))
    path = tmp_path / "pool.csv"
    path.write_text("\n".join(lines), "utf-8")
    return path


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, Any, str]:
    status = main(["group", *arguments, "--json"])
    out, error = capsys.readouterr()
    return status, json.loads(out) if out else {}, error


def test_a_pool_becomes_groups(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    spoil = {12: "12;1.1;4.6;21;68", 40: "40;3.61;4.68;21;64"}
    path = table(tmp_path, 102, spoil)
    status, found, error = run(
        capsys,
        str(path),
        "--series",
        "14",
        "--parallel",
        "7",
        "--cell",
        "ostrel-21-48",
        "--pin",
        "57=g3c2",
        "--apart",
        "3,4,5",
    )
    assert (status, error) == (0, "")
    assert found["cells"] == 102
    assert {item["number"] for item in found["rejected"]} == {12, 40}
    best = found["best"]
    groups = best["groups"]
    assert [len(group) for group in groups] == [7] * 14
    assert 57 in groups[2]
    sits = [{at for at, group in enumerate(groups) if number in group} for number in (3, 4, 5)]
    assert sum(map(len, sits)) == len(set().union(*sits))
    assert sorted([*chain(*groups), *found["spares"], 12, 40]) == list(range(1, 103))
    methods = found["methods"]
    assert methods["optimiser"]["spread_capacity"] < 1e-4 < methods["snake"]["spread_capacity"]
    assert best["capacity_ah"] and min(best["capacity_ah"]) == pytest.approx(
        methods["optimiser"]["delivered_ah"]
    )
    assert found["gap"] <= methods["optimiser"]["spread_capacity"]


def test_too_few_say_how_many_are_missing(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path = table(tmp_path, 20)
    status, found, _ = run(capsys, str(path), "--series", "11", "--parallel", "2")
    assert status == 1
    assert found["missing"] == 2
    assert main(["group", str(path), "--series", "11", "--parallel", "2"]) == 1
    assert "2 are missing" in capsys.readouterr().err


def test_words_for_people_and_slips_of_the_pen(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path = table(tmp_path, 24, {7: "77;3.61;4.68;21;68"})
    assert main(["group", str(path), "--series", "4", "--parallel", "5"]) == 0
    out, error = capsys.readouterr()
    assert "optimised" in out
    assert "left over: " in out
    assert "numbers that lack: 7" in error
    assert "number 77 lies far from the others; 7 may be meant" in error


def test_what_is_no_good_is_said(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = table(tmp_path, 12, {3: "3;x;1;1;1"})
    assert main(["group", str(path), "--series", "4", "--parallel", "3"]) == 2
    assert "pool.csv, line 4" in capsys.readouterr().err
    good = str(table(tmp_path, 12))
    assert main(["group", good, "--series", "4", "--parallel", "3", "--cell", "none"]) == 2
    assert "no cell “none”" in capsys.readouterr().err
    for wrong in (["--pin", "57"], ["--apart", "12"], ["--series", "0"], ["--seconds", "-1"]):
        with pytest.raises(SystemExit):
            main(["group", good, "--series", "4", "--parallel", "3", *wrong])
        assert capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["group", good])


def test_cases_in_a_row(
    capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    mah = (2412, 2398, 2371, 2355, 2340, 2322, 2301, 2287, 2264, 2239, 2215, 2180)
    cells = [
        {"number": place, "ah": value / 1000.0, "mohm": 20.0 + place, "volts": 3.6}
        for place, value in enumerate(mah, 1)
    ]
    lines = [
        json.dumps({"cells": cells, "series": 4, "parallel": 3}),
        "",
        json.dumps({"cells": cells[:11], "series": 4, "parallel": 3}),
        "nonsense",
        json.dumps({"cells": cells, "series": 4, "parallel": 3, "by": "resistance"}),
    ]
    monkeypatch.setattr("sys.stdin", io.StringIO("\n".join(lines)))
    assert main(["group", "--batch"]) == 2
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert len(found) == 4
    sums = found[0]["best"]["capacity_ah"]
    assert max(sums) - min(sums) == pytest.approx(0.012)
    assert found[0]["gap"] == 0.0
    assert found[1]["missing"] == 1
    assert "wanted is" in found[2]["error"]
    by_ohm = found[3]["methods"]["optimiser"]["spread_conductance"]
    assert by_ohm <= found[0]["methods"]["optimiser"]["spread_conductance"]
