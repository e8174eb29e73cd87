import csv
import io
import json
import re
import xml.etree.ElementTree as ET
from pathlib import Path

import numpy as np
import pypdf
import pytest

from lumvak.cli.main import main
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.node_names import node_voltages
from lumvak.core.spelling import Spelling
from lumvak.files.export.formats import FORMATS, exported
from lumvak.files.export.pdf import POINTS
from lumvak.ui.speech import SPEECH
from tests.conftest import BARROW

NUMBER = r"(-?[\d.]+)"


def lines_of(page: pypdf.PageObject) -> list[tuple[float, float, float, float]]:
    """Every single line of a page in mm from its lower left corner."""
    text = page.get_contents().get_data().decode("latin-1")  # type: ignore[union-attr]
    found = re.findall(rf"{NUMBER} {NUMBER} m {NUMBER} {NUMBER} l S", text)
    return [tuple(float(value) / POINTS for value in item) for item in found]  # type: ignore[misc]


def paths_of(page: pypdf.PageObject) -> list[np.ndarray]:
    """The closed four-cornered paths of a page, corners in mm."""
    text = page.get_contents().get_data().decode("latin-1")  # type: ignore[union-attr]
    pattern = rf"n {NUMBER} {NUMBER} m\s+" + rf"{NUMBER} {NUMBER} l\s+" * 3 + r"h\s+S"
    found = re.findall(pattern, text)
    return [np.array(item, dtype=float).reshape(4, 2) / POINTS for item in found]


def simulated(netlist: str) -> dict[str, float]:
    """Node voltages of a netlist of R, V and I by modified nodal analysis."""
    parts = [line.split() for line in netlist.splitlines() if line and line[0] in "RVI"]
    names = sorted({name for part in parts for name in part[1:3]} - {"0"})
    number = {name: place for place, name in enumerate(names)}
    sources = [part for part in parts if part[0][0] == "V"]
    size = len(names) + len(sources)
    matrix, right = np.zeros((size, size)), np.zeros(size)
    for part in parts:
        one, two, value = number.get(part[1]), number.get(part[2]), float(part[-1])
        if part[0][0] == "R":
            for here, other in ((one, two), (two, one)):
                if here is not None:
                    matrix[here, here] += 1.0 / value
                    if other is not None:
                        matrix[here, other] -= 1.0 / value
        elif part[0][0] == "I":
            if one is not None:
                right[one] -= value
            if two is not None:
                right[two] += value
    for place, part in enumerate(sources, len(names)):
        for node, sign in ((number.get(part[1]), 1.0), (number.get(part[2]), -1.0)):
            if node is not None:
                matrix[place, node] = matrix[node, place] = sign
        right[place] = float(part[-1])
    return dict(zip(names, np.linalg.solve(matrix, right).tolist(), strict=False))


def test_the_starts_of_a_tool_are_in_json(capsys: pytest.CaptureFixture[str]) -> None:
    path = BARROW.with_name("hedge-trimmer.lumvak.json")
    assert main(["evaluate", str(path), "--json"]) == 1
    starts = json.loads(capsys.readouterr().out)["power"]["starts"]
    trips = {(item["pull"], item["surge"] is not None): item["trips_s"] for item in starts}
    assert trips["fast", False] == pytest.approx(0.12, abs=0.01)
    assert trips["fast", True] is None
    assert trips["slow", False] is None
    by_how_much = next(item for item in starts if item["trips_s"] is not None)
    assert by_how_much["spare_a"] < 0.0
    assert by_how_much["stage_a"] == 52.5


@pytest.mark.parametrize(
    "changes",
    [
        {},
        {"joints.link_a": 8.0, "joints.joining": "cap"},
        {"joints.lead_points": ({"pole": "-", "cell": 2, "toward": 3, "share": 0.4},)},
        {"measured": ({"cell": "g3c2", "mohm": 90.0, "volts": 3.6},)},
    ],
)
def test_a_simulator_finds_the_voltages_that_lumvak_lists(
    barrow: Project, catalogue: Catalogue, changes: dict[str, object]
) -> None:
    evaluation = evaluate(with_values(barrow, changes), catalogue)
    volts = simulated(exported(evaluation, "spice").decode())
    listed = node_voltages(evaluation.laid_out.joined_pack)
    assert volts.keys() == listed.keys() - {"0"}
    assert {"g1c1p", "g14c7n", "pack"} <= volts.keys()
    for name, value in volts.items():
        assert listed[name] == pytest.approx(value, abs=1e-7), name


def test_the_command_line_exports_and_says_what_is_wrong(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    for to in (item for item in FORMATS if item not in ("placing", "dates")):
        out = tmp_path / f"pack.{to}"
        assert main(["export", str(BARROW), "--to", to, "-o", str(out)]) == 0
        small = {
            "wiring-csv": 900,
            "shopping-text": 2000,
            "log": 50,
            "label-charger-svg": 900,
            "bom": 500,
        }
        assert out.stat().st_size > small.get(to, 5000)
    sheet = tmp_path / "sheet.pdf"
    assert main(["export", str(BARROW), "--to", "placing", "-o", str(sheet)]) == 2
    assert "no cell in hand has its place" in capsys.readouterr().err
    document = json.loads(BARROW.read_text("utf-8"))
    document["joints"]["changes"] = [{"a": "g1c1p", "b": "g1c1n", "layers": 1}]
    short = tmp_path / "short.lumvak.json"
    short.write_text(json.dumps(document), "utf-8")
    capsys.readouterr()
    assert main(["export", str(short), "--to", "spice", "-o", str(tmp_path / "x.cir")]) == 2
    assert "nothing to simulate" in capsys.readouterr().err
    assert not (tmp_path / "x.cir").exists()
    assert main(["evaluate", str(short), "--json"]) == 1
    network = json.loads(capsys.readouterr().out)["network"]
    assert network["nodes"] == {} and network["flaws"][0]["code"] == "joint-shorts"
    folder = tmp_path / "no" / "folder" / "pack.svg"
    assert main(["export", str(BARROW), "--to", "svg", "-o", str(folder)]) == 2
    assert "is no folder; make it" in capsys.readouterr().err and not folder.parent.exists()


def test_the_drawings_of_a_pack_with_an_odd_name_are_well_formed(
    barrow: Project, catalogue: Catalogue
) -> None:
    name = """=cmd|' /C calc'!A0 <script>&"]]>"""
    evaluation = evaluate(with_values(barrow, {"name": name}), catalogue)
    root = ET.fromstring(exported(evaluation, "svg"))
    assert next(root.iter("{http://www.w3.org/2000/svg}title")).text == f"{name}, 14S7P"
    assert all(
        not cell.startswith(("=", "@"))
        for row in csv.reader(io.StringIO(exported(evaluation, "csv").decode("utf-8-sig")))
        for cell in row
    )
    first = exported(evaluation, "spice").decode().splitlines()[0]
    assert first.startswith("*")
    assert pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf"))).metadata is not None


def test_what_programs_read_is_the_same_in_every_spelling(
    evaluation: Evaluation, barrow: Project, catalogue: Catalogue
) -> None:
    before = {to: exported(evaluation, to) for to in ("csv", "spice")}
    SPEECH.spelling = Spelling(inches=True, fahrenheit=True, gauges=False, comma=True, currency="€")
    after = evaluate(barrow, catalogue)
    assert numbers_in(exported(after, "csv")) == numbers_in(before["csv"])
    assert exported(after, "spice") == before["spice"]
    assert len(numbers_in(before["csv"])) > 2000
    words = "".join(
        page.extract_text() for page in pypdf.PdfReader(io.BytesIO(exported(after, "pdf"))).pages
    )
    assert "100 mm" in words


def numbers_in(data: bytes) -> list[str]:
    """Every line that is a number, and every cell that is one: words are spelled as one likes."""
    cells = [cell for row in csv.reader(io.StringIO(data.decode("utf-8-sig"))) for cell in row]
    return [cell for cell in cells if re.fullmatch(r"\s*-?\d+(?:\.\d+)?(?:e-?\d+)?\s*", cell)]
