"""lumvak explain."""

import json

import pytest

from lumvak.cli.main import main
from lumvak.core.evaluation import Evaluation
from tests.conftest import BARROW


def test_explain_unfolds_a_figure_to_what_was_typed(
    capsys: pytest.CaptureFixture[str], evaluation: Evaluation
) -> None:
    assert main(["explain", str(BARROW), "pack.energy_wh"]) == 0
    text = capsys.readouterr().out
    assert text.splitlines()[0].startswith("1693 Wh  energy")
    assert "14  in series  [typed]" in text
    assert main(["explain", str(BARROW), "pack.runtime_h", "--json"]) == 0
    document = json.loads(capsys.readouterr().out)
    assert document["value"] == pytest.approx(evaluation.figures["pack.runtime_h"].number)
    leaves, stack = [], [document]
    while stack:
        node = stack.pop()
        stack.extend(node["inputs"])
        if not node["inputs"] and not node["see_above"]:
            leaves.append(node)
    assert leaves and all(leaf["origin"] != "computed" for leaf in leaves)


def test_json_unfolds_each_figure_once_and_as_deep_as_is_asked(
    capsys: pytest.CaptureFixture[str],
) -> None:
    main(["explain", str(BARROW), "pack.runtime_h", "--json"])
    unfolded: list[str] = []
    stack = [json.loads(capsys.readouterr().out)]
    while stack:
        node = stack.pop()
        stack.extend(node["inputs"])
        unfolded += [node["key"]] * bool(node["inputs"])
    assert len(unfolded) == len(set(unfolded)) > 5
    main(["explain", str(BARROW), "pack.runtime_h", "--json", "--depth", "1"])
    shallow = json.loads(capsys.readouterr().out)
    assert shallow["inputs"] and not any(part["inputs"] for part in shallow["inputs"])


def test_explain_names_the_nearest_key(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["explain", str(BARROW), "pack.energy"]) == 2
    assert "pack.energy_wh" in capsys.readouterr().err
    assert main(["explain", "/nowhere.json", "pack.energy_wh"]) == 2
    assert "cannot be read" in capsys.readouterr().err
