"""Wires and strips that carry a current, against lines of our own."""

import csv
import io
import json
import math

import pytest

from lumvak.cli.main import main

RHO = {"copper": 17.2e-9, "nickel": 70.0e-9}


def found(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, dict[str, object]]:
    code = main([*words, "--json"])
    return code, json.loads(capsys.readouterr().out)


def test_a_wire_is_judged_by_section_drop_and_rise(capsys: pytest.CaptureFixture[str]) -> None:
    """Copper of 17.2 nΩ·m: 6 A/mm²; 250 mV over both; more current, more rise by its square."""
    code, answer = found(capsys, "wire", "--current", "30A", "--length", "0.5m")
    rows = answer["wires"]
    assert isinstance(rows, list) and code == 0
    for row in rows:
        assert row["limits_a"]["rule"] == pytest.approx(6.0 * row["area_mm2"])
        ohm = 2 * 0.5 * RHO["copper"] / (row["area_mm2"] * 1e-6)
        assert row["drop_v"] == pytest.approx(30.0 * ohm, rel=0.03)
        assert row["limits_a"]["loss"] == pytest.approx(0.25 / ohm, rel=0.03)
        assert row["serves"] == (row["limits_a"]["temperature"] >= 30.0)
        if row["insulation"] != "pvc":
            scale = math.sqrt(35.0 / row["rise_k"])
            assert row["limits_a"]["temperature"] == pytest.approx(30.0 * scale, rel=0.01)
    assert [row["area_mm2"] for row in rows if row["serves"]] == sorted(
        row["area_mm2"] for row in rows if row["serves"]
    )


def test_a_strip_is_judged_by_its_section_and_its_span(capsys: pytest.CaptureFixture[str]) -> None:
    """Nickel of 70 nΩ·m, 5 A/mm², 20 mV from weld to weld; twice the layers, half the ohms."""
    words = ("strip", "--current", "8A", "--span", "20mm", "--metal", "nickel", "--width", "8mm")
    code, answer = found(capsys, *words)
    rows = answer["strips"]
    assert isinstance(rows, list) and code == 0 and rows
    by_layers = {}
    for row in rows:
        if row["id"] == "nickel-0.15x8":
            by_layers[row["layers"]] = row
            section = 0.15 * 8.0 * row["layers"]
            assert row["ohm"] == pytest.approx(RHO["nickel"] * 0.02 / (section * 1e-6), rel=0.02)
            assert row["limits_a"]["rule"] == pytest.approx(5.0 * section, rel=0.01)
            assert row["limits_a"]["loss"] == pytest.approx(0.02 / row["ohm"], rel=1e-6)
    assert by_layers[1]["ohm"] == pytest.approx(2.0 * by_layers[2]["ohm"])


def test_the_criterion_decides_and_where_none_serves_it_is_said(
    capsys: pytest.CaptureFixture[str],
) -> None:
    assert main(["strip", "--current", "25A", "--criterion", "density", "--csv"]) == 0
    rows = list(csv.DictReader(io.StringIO(capsys.readouterr().out)))
    serving = [row for row in rows if row["serves"] == "true"]
    assert serving and all(float(row["limits_a.rule"]) >= 25.0 for row in serving)
    assert main(["strip", "--current", "5000A", "--metal", "nickel"]) == 1
    assert "no strip carries 5000 A by its rise" in capsys.readouterr().out
    assert main(["wire", "--current", "9000A"]) == 1
    assert "no wire carries" in capsys.readouterr().out


def test_text_has_a_unit_in_every_number(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["wire", "--current", "30A", "--top", "2"]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert len(lines) == 5 and " A " in lines[2] and " V " in lines[2] and " K " in lines[2]
    with pytest.raises(SystemExit):
        main(["wire", "--current", "30A", "--drop", "0"])
    assert "over 0 mV" in capsys.readouterr().err
