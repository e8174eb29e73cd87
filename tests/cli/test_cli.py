import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from lumvak import __version__
from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.checked import written
from lumvak.core.sizing.counts import NEEDS
from tests.conftest import BARROW

NEED = [
    "size", "--rated-voltage", "36V", "--max-voltage", "43V", "--cutoff-voltage", "30V",
    "--current", "18A", "--peak", "40A:8s", "--runtime", "1h",
]  # fmt: skip
ENVIRONMENT = {**os.environ, "PYTHONPATH": str(Path(__file__).parents[2] / "src")}
OPTION_KEYS = {
    "series", "parallel", "chemistry", "cell", "cell_count", "voltage_full_v",
    "voltage_nominal_v", "voltage_empty_v", "capacity_ah", "energy_wh", "mass_kg", "cost",
    "current_per_cell_a", "binding", "parallel_needs", "usable_fraction", "charge_voltage_v",
    "charge_current_a", "joint", "bms", "weakest_link",
}  # fmt: skip


def size_json(capsys: pytest.CaptureFixture[str], *flags: str) -> dict[str, Any]:
    main([*NEED, *flags, "--json"])
    return json.loads(capsys.readouterr().out)


def test_size_prints_the_options_best_first(capsys: pytest.CaptureFixture[str]) -> None:
    answer = size_json(capsys, "--top", "4")
    assert len(answer["options"]) == 4
    for option in answer["options"]:
        assert set(option) >= OPTION_KEYS
        assert option["voltage_full_v"] <= 43.0
        assert option["usable_fraction"] >= 0.75
        needs = option["parallel_needs"]
        assert set(needs) == set(NEEDS)
        assert option["parallel"] >= max(needs.values())
        assert needs[option["binding"]] == max(needs.values())
        assert option["cell_count"] == option["series"] * option["parallel"]
        assert option["current_per_cell_a"] == pytest.approx(18 / option["parallel"])
        assert set(option["joint"]) >= {"part", "layers", "rise_k", "loss_w"}
        assert set(option["bms"]) == {"part", "continuous_a", "peak_a", "ports"}
        assert option["bms"]["continuous_a"] >= 18
        assert option["bms"]["peak_a"] >= 40
        assert set(option["weakest_link"]) == {"name", "continuous_a"}
    for refused in answer["refused"]:
        assert set(refused) >= {"chemistry", "series", "reason"}


def test_size_takes_spellings_and_units_of_all_kinds(capsys: pytest.CaptureFixture[str]) -> None:
    plain = size_json(capsys)
    spelled = [
        "size",
        "--rated-voltage",
        "36,0 V",
        "--max-voltage",
        "43000 mV",
        "--cutoff-voltage",
        "30",
        "--current",
        "18000 mA",
        "--peak",
        "40:8",
        "--runtime",
        "60 min",
        "--json",
    ]
    assert main(spelled) == 0
    assert json.loads(capsys.readouterr().out) == plain


def test_the_table_shows_what_the_json_says(capsys: pytest.CaptureFixture[str]) -> None:
    best = size_json(capsys)["options"][0]
    assert main([*NEED]) == 0
    text = capsys.readouterr().out
    line = text.splitlines()[2]
    assert best["cell"] in line
    assert f"{best['series']}S{best['parallel']}P" in line
    assert "refused: iron phosphate, 12 in series: 0.8 V too high when full" in text


@pytest.mark.parametrize(
    ("flags", "check"),
    [
        (["--chemistry", "lfp"], lambda o: o["chemistry"] == "lfp"),
        (["--chemistry", "phosphate"], lambda o: o["chemistry"] == "lfp"),
        (["--cell", "ostrel-21-40p"], lambda o: o["cell"] == "ostrel-21-40p"),
        (["--series", "10"], lambda o: o["series"] == 10),
        (["--cell", "ostrel-21-40p", "--parallel", "9"], lambda o: o["parallel"] == 9),
        (["--charger", "42V:2A"], lambda o: o["charge_current_a"] <= 2.0),
    ],
)
def test_flags_narrow_the_search(
    capsys: pytest.CaptureFixture[str], flags: list[str], check: Any
) -> None:
    options = size_json(capsys, *flags)["options"]
    assert options
    assert all(check(option) for option in options)


@pytest.mark.parametrize(
    "span",
    [
        ["--capacity", "15Ah"],
        ["--energy", "500Wh"],
        ["--distance", "30km", "--consumption", "12Wh/km"],
        ["--distance", "30km"],
        [],
    ],
)
def test_every_endurance_basis_works(capsys: pytest.CaptureFixture[str], span: list[str]) -> None:
    base = ["size", "--rated-voltage", "36V", "--power", "600W", "--efficiency", "0.88"]
    assert main([*base, *span, "--ambient", "-5C", "--top", "1", "--json"]) == 0
    (option,) = json.loads(capsys.readouterr().out)["options"]
    assert option["current_per_cell_a"] * option["parallel"] > 600 / 0.88 / 36
    if span[:1] == ["--capacity"]:
        assert option["capacity_ah"] * option["usable_fraction"] >= 15


def test_a_duty_takes_the_place_of_a_load(capsys: pytest.CaptureFixture[str]) -> None:
    base = ["size", "--rated-voltage", "36V", "--runtime", "1h", "--top", "1", "--json"]
    assert main([*base, "--duty", "40A 8s, 18A 40s, 0A 12s"]) == 0
    (option,) = json.loads(capsys.readouterr().out)["options"]
    assert option["current_per_cell_a"] * option["parallel"] == pytest.approx(20.72, abs=0.01)
    assert option["capacity_ah"] > 17.33
    assert main([*base, "--duty", "900 W 10 s, 300 W 50 s", "--efficiency", "0.9"]) == 0
    with pytest.raises(SystemExit):
        main([*base, "--duty", "40A 8s, 18A"])
    assert "--duty: step 2" in capsys.readouterr().err


def test_a_nickel_pack_implies_its_window(capsys: pytest.CaptureFixture[str]) -> None:
    assert (
        main(["size", "--nickel-cells", "15", "--contacts", "2", "--current", "9A", "--json"]) == 0
    )
    options = json.loads(capsys.readouterr().out)["options"]
    assert all(option["voltage_full_v"] <= 1.45 * 15 for option in options)
    assert all(option["bms"]["ports"] == 1 for option in options if option["bms"])
    assert "need.max_voltage_v" in options[0]["assumed"]


def test_nothing_serves_exits_1_with_reasons(capsys: pytest.CaptureFixture[str]) -> None:
    window = ["--rated-voltage", "36", "--max-voltage", "36.5", "--cutoff-voltage", "35.9"]
    assert main(["size", *window, "--current", "18"]) == 1
    out = capsys.readouterr().out
    assert "Nothing serves" in out
    assert "too high" in out
    assert main(["size", *window, "--current", "18", "--json"]) == 1
    answer = json.loads(capsys.readouterr().out)
    assert answer["options"] == []
    assert answer["refused"]
    mixed = ["--cell", "ostrel-21-48", "--chemistry", "lfp", "--json"]
    assert main([*NEED, *mixed]) == 1
    assert json.loads(capsys.readouterr().out)["refused"]


@pytest.mark.parametrize(
    ("flags", "words"),
    [
        (["--rated-voltage", "0", "--current", "5"], ("--rated-voltage", "over 0")),
        (["--rated-voltage", "-36V", "--current", "5"], ("--rated-voltage", "over 0")),
        (["--rated-voltage", "36", "--current", "nan"], ("--current", "not a current")),
        (["--rated-voltage", "36", "--current", "some"], ("--current", "such as 18 A")),
        (["--rated-voltage", "36", "--current", "9", "--peak", "5A:1s"], ("--peak", "9 A or more")),
        (["--rated-voltage", "36", "--current", "9", "--peak", "5A:"], ("--peak", "not a time")),
        (
            ["--rated-voltage", "36", "--current", "9", "--cutoff-voltage", "40"],
            ("--cutoff-voltage", "below 36 V"),
        ),
        (
            ["--rated-voltage", "36", "--current", "9", "--max-voltage", "30"],
            ("--max-voltage", "36 V or more"),
        ),
        (["--rated-voltage", "36"], ("--current", "--power")),
        (["--current", "9"], ("--rated-voltage", "missing")),
        (["--rated-voltage", "36", "--current", "9", "--power", "9"], ("--power", "not allowed")),
        (["--rated-voltage", "36", "--current", "9", "--consumption", "9"], ("--distance",)),
        (["--rated-voltage", "36", "--current", "9", "--efficiency", "1"], ("--efficiency",)),
        (["--rated-voltage", "36", "--power", "9", "--efficiency", "0"], ("--efficiency",)),
        (["--rated-voltage", "36", "--current", "9", "--charger", "42V"], ("--charger", "colon")),
        (["--rated-voltage", "36", "--current", "9", "--series", "1.5"], ("--series", "whole")),
        (["--rated-voltage", "36", "--current", "9", "--series", "0"], ("--series", "from 1 up")),
        (["--rated-voltage", "36", "--current", "9", "--cell", "x"], ("--cell", "accepted")),
        (["--rated-voltage", "36", "--current", "9", "--chemistry", "x"], ("--chemistry", "lfp")),
        (
            ["--rated-voltage", "36", "--current", "9", "--catalogue", "/no.json"],
            ("--catalogue", "cannot be read"),
        ),
        (["--rated-voltage", "36", "--current", "9", "--form", "coin"], ("--form", "18650")),
        (["--rated-voltage", "36", "--current", "9", "--colour", "red"], ("--colour",)),
    ],
)
def test_bad_usage_exits_2_and_names_the_flag(
    capsys: pytest.CaptureFixture[str], flags: list[str], words: tuple[str, ...]
) -> None:
    with pytest.raises(SystemExit) as caught:
        main(["size", *flags])
    assert caught.value.code == 2
    message = capsys.readouterr().err
    for word in words:
        assert word in message


def test_a_catalogue_of_ones_own_is_used(
    capsys: pytest.CaptureFixture[str], catalogue: Catalogue, tmp_path: Path
) -> None:
    cell = json.loads(written(catalogue.cells["ostrel-21-40p"]))
    cell.update({"id": "bench-cell", "name": "Bench cell", "price": 0.01})
    path = tmp_path / "own.json"
    path.write_text(json.dumps({"format": "lumvak-parts", "version": 1, "cells": [cell]}), "utf-8")
    answer = size_json(capsys, "--catalogue", str(path), "--rank", "cheapest", "--top", "1")
    assert answer["options"][0]["cell"] == "bench-cell"


def test_the_command_line_knows_no_qt() -> None:
    program = (
        "import sys; from lumvak.cli.main import main; "
        f"main({[*NEED, '--json']!r}); main(['evaluate', {str(BARROW)!r}]); "
        "sys.exit(any(name.startswith('PyQt6') for name in sys.modules))"
    )
    done = subprocess.run(
        [sys.executable, "-c", program], stdout=subprocess.DEVNULL, check=False, env=ENVIRONMENT
    )
    assert done.returncode == 0


def test_the_module_starts_the_program() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "lumvak", "--version"],
        capture_output=True,
        text=True,
        check=True,
        env=ENVIRONMENT,
    )
    assert done.stdout.strip() == f"lumvak {__version__}"


def test_what_does_not_serve_is_answered(capsys: pytest.CaptureFixture[str]) -> None:
    flags = ["--cell", "ostrel-21-48", "--series", "10", "--parallel", "2"]
    assert main([*NEED, *flags, "--json"]) == 1
    answer = json.loads(capsys.readouterr().out)["why_not"]
    assert answer["failed"] in NEEDS
    cell, series, parallel = answer["cure"]
    assert (cell, series) == ("ostrel-21-48", 10)
    assert main([*NEED, "--cell", cell, "--series", "10", "--parallel", str(parallel)]) == 0
    capsys.readouterr()
    assert main([*NEED, *flags]) == 1
    printed = capsys.readouterr().out
    assert f"{answer['text']}; {answer['change']}." in printed
    # A chemistry as a whole, in a window that fits none of its counts.
    narrow = [*NEED, "--max-voltage", "38V", "--chemistry", "titanate", "--json"]
    code = main(narrow)
    found = json.loads(capsys.readouterr().out)
    assert ("why_not" in found) == (code == 1)


def test_forms_narrow_the_cells_and_a_name_is_never_hidden(
    capsys: pytest.CaptureFixture[str], catalogue: Catalogue
) -> None:
    def forms(*flags: str) -> set[str]:
        options = size_json(capsys, "--top", "12", *flags)["options"]
        return {catalogue.cells[option["cell"]].format for option in options}

    assert forms("--top", "60") <= {"18650", "21700", "26650", "32700"}
    assert forms("--form", "pouch") == {"pouch"}
    assert forms("--form", "21700, pouch") == {"21700", "pouch"}
    assert forms("--cell", "tallin-p-105") == {"pouch"}
    assert "pouch" in forms("--kind", "supply")


def test_each_option_says_what_stops_it_and_the_first_has_nothing(
    capsys: pytest.CaptureFixture[str],
) -> None:
    options = size_json(capsys, "--top", "8")["options"]
    assert options[0]["stops"] == []
    assert all(isinstance(code, str) for option in options for code in option["stops"])
    assert main([*NEED, "--series", "10", "--current", "18A"]) == 0
    out = capsys.readouterr().out
    assert "stopped" in out.splitlines()[0]


def lumvak(*arguments: str, out: Any = subprocess.PIPE, **named: str) -> Any:
    """The command line as a process of its own, with more in its environment."""
    return subprocess.run(
        [sys.executable, "-m", "lumvak", *arguments],
        stdout=out,
        stderr=subprocess.PIPE,
        env={**ENVIRONMENT, **named},
        check=False,
        timeout=120,
    )


def test_no_traceback_on_a_plain_terminal_a_full_disk_or_a_pipe(tmp_path: Path) -> None:
    done = lumvak("evaluate", str(BARROW), PYTHONIOENCODING="ascii")
    assert done.returncode == 1
    assert done.stdout.isascii()
    done = lumvak("evaluate", str(BARROW), "--json", PYTHONIOENCODING="ascii")
    assert json.loads(done.stdout)["figures"]
    with Path("/dev/full").open("wb") as full:
        done = lumvak("evaluate", str(BARROW), out=full)
    assert (done.returncode, done.stderr) == (3, b"lumvak: No space left on device\n")
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    done = lumvak("evaluate", str(pipe))
    assert done.returncode == 2
    assert b"no plain file" in done.stderr
    assert b"Traceback" not in done.stderr


def test_what_cannot_be_worked_out_is_said(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def fails(*_: object) -> None:
        raise KeyError("network.link_limit_a")

    monkeypatch.setattr("lumvak.cli.project.reading.evaluate", fails)
    assert main(["evaluate", str(BARROW)]) == 2
    assert "could not be worked out (KeyError" in capsys.readouterr().err
