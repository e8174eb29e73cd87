"""lumvak evaluate."""

import json
from pathlib import Path

import pytest

from lumvak.cli.main import main
from lumvak.core.evaluation import Evaluation
from lumvak.ui.speech import say
from tests.conftest import BARROW


def test_evaluate_prints_figures_findings_and_chain(
    capsys: pytest.CaptureFixture[str], evaluation: Evaluation
) -> None:
    # Its strips are too narrow, which is a stop.
    assert main(["evaluate", str(BARROW), "--json"]) == 1
    document = json.loads(capsys.readouterr().out)
    assert set(document["figures"]) == set(evaluation.figures)
    for key, figure in document["figures"].items():
        assert figure["value"] == pytest.approx(evaluation.figures[key].value), key
        assert set(figure["inputs"]) <= set(document["figures"])
    assert [item["code"] for item in document["findings"]] == [
        item.code for item in evaluation.findings
    ]
    assert [link["key"] for link in document["chain"]] == [
        link.key for link in evaluation.path.links
    ]
    assert document["weakest_link"]["key"] == "series-joints"
    assert main(["evaluate", str(BARROW)]) == 1
    text = capsys.readouterr().out
    assert "Orchard barrow" in text
    assert evaluation.path.weakest is not None
    assert f"Series connections carry {say(evaluation.path.weakest.continuous_a, 'A')}" in text


def test_evaluate_refuses_a_bad_file(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "bad.json"
    path.write_text("{", "utf-8")
    assert main(["evaluate", str(path)]) == 2
    assert "bad.json, line 1" in capsys.readouterr().err


def test_evaluate_draws_packs_when_asked(capsys: pytest.CaptureFixture[str]) -> None:
    runs = []
    for _ in range(2):
        assert main(["evaluate", str(BARROW), "--json", "--tolerance"]) == 1
        runs.append(json.loads(capsys.readouterr().out)["figures"])
    assert runs[0] == runs[1]
    chance = runs[0]["tolerance.chance"]
    assert 0.0 < chance["value"] < 1.0
    assert "run.load_spread" in chance["inputs"]
    low, middle, high = (
        runs[0][f"tolerance.{name}_h"]["value"] for name in ("low", "middle", "high")
    )
    assert low < middle < high
    # Its strips are too narrow, which is a stop.
    assert main(["evaluate", str(BARROW), "--json"]) == 1
    assert "tolerance.chance" not in json.loads(capsys.readouterr().out)["figures"]
