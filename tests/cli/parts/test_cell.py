"""``lumvak cell``."""

import json
from pathlib import Path

import pytest
from msgspec.structs import replace

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue, PartsFile
from lumvak.files.own_parts import parts_text
from tests.core.cells.test_sheet_fit import MADE, of, run, with_sheet


def test_a_cell_with_curves_is_fitted_and_run(
    catalogue: Catalogue, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    true = of(catalogue)
    sheet = with_sheet(catalogue.cells[MADE], true, cold=True)
    mine = replace(sheet, id="mine", name="Mine", sample=False)
    path = tmp_path / "mine.json"
    path.write_text(parts_text(PartsFile(cells=(mine,))), encoding="utf-8")
    flags = ["cell", "mine", "--catalogue", str(path), "--at", "7.2 A", "--at", "4.8A:10C"]
    assert main([*flags, "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert answer["fitted"]
    assert [item["current_a"] for item in answer["curves"]] == pytest.approx([0.96, 4.8, 9.6, 2.4])
    assert max(item["residual_v"] for item in answer["curves"]) < 0.02
    for told, (rate, celsius) in zip(answer["runs"], ((1.5, 25.0), (1.0, 10.0)), strict=True):
        held = run(sheet, true, rate, celsius)
        assert told["temperature_c"] == celsius
        assert told["delivered_ah"] == pytest.approx(held.taken_ah, rel=0.03)
        assert told["mean_voltage_v"] == pytest.approx(held.delivered_wh / held.taken_ah, rel=0.03)
    assert main(flags) == 0
    text = capsys.readouterr().out
    assert "Mine" in text
    assert "fit is off" in text


def test_what_is_not_known_is_told(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["cell", MADE, "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert not answer["fitted"]
    assert answer["curves"] == []
    assert len(answer["runs"]) == 3
    assert main(["cell", "nobody"]) == 2
    assert "no cell “nobody”; accepted:" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["cell", MADE, "--at", "five"])
