"""The pack as tables."""

import csv
import io
import json

import pytest

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.files.export.formats import exported
from tests.conftest import BARROW


def test_csv_lists_pieces_cells_and_joints(evaluation: Evaluation) -> None:
    rows = list(csv.reader(io.StringIO(exported(evaluation, "csv").decode("utf-8-sig"))))
    kinds = {
        kind: [row for row in rows if row and row[0] == kind] for kind in ("piece", "cell", "joint")
    }
    assert len(kinds["cell"]) == 98 and len(kinds["joint"]) == len(
        evaluation.laid_out.joined_pack.pieces
    )
    assert sum(int(row[8]) for row in kinds["piece"]) == 54
    assert sum(float(row[8]) for row in kinds["cell"]) == pytest.approx(22.0 * 14, rel=1e-5)


def test_the_power_path_is_in_csv_and_json_alike(
    demos: dict[str, Project], catalogue: Catalogue, capsys: pytest.CaptureFixture[str]
) -> None:
    evaluation = evaluate(demos["kayak"], catalogue)
    rows = list(csv.reader(io.StringIO(exported(evaluation, "csv").decode("utf-8-sig"))))

    def table(name: str) -> list[dict[str, str]]:
        body = [row for row in rows if row and row[0] == name]
        start = rows.index(body[0])
        return [dict(zip(rows[start - 1], row, strict=True)) for row in body]

    path = BARROW.with_name("kayak-thruster.lumvak.json")
    assert main(["evaluate", str(path), "--json"]) == 1
    power = json.loads(capsys.readouterr().out)["power"]
    assert power["adjustable"]
    assert len(power["settings"]) == len(table("setting")) == 12
    for told, listed in zip(power["settings"], table("setting"), strict=True):
        assert told["setting"] == listed["setting"]
        assert told["value"] == pytest.approx(float(listed["value"]))
        assert told["reason"] == listed["reason"]
        assert (told["delay_s"] is None) == (listed["delay_s"] == "")
    assert [row["part"] or None for row in table("part")] == [row["part"] for row in power["parts"]]
    assert [row["link"] for row in table("link")] == [link.key for link in evaluation.path.links]
    pairs = {(row["first"], row["second"]): row for row in table("pair")}
    for told in power["order"]:
        listed = pairs[told["first"], told["second"]]
        assert (listed["in_order"] == "yes") == told["holds"]
        if told["fails_s"]:
            assert float(listed["fails_from_s"]) == pytest.approx(told["fails_s"][0][0], rel=1e-4)
    assert power["short_circuit_a"] == pytest.approx(evaluation.power.short_a.number)
    assert [row["seconds"] for row in power["rating"]] == [None, 10.0, 1.0]
    assert power["rating"][0]["link"] == "fuse"
    assert power["starts"] == []
    assert power["upgrades"][0]["link"] == "fuse"
    assert power["rest"]["cut_days"] > 100.0
