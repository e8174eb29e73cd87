import csv
import io
import json
import re
import xml.etree.ElementTree as ET
from collections.abc import Callable
from pathlib import Path

import ezdxf
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
from lumvak.core.making.cut_lines import cut_lines, numbers_of
from lumvak.core.making.template import WELD_APART_MM, Shape, template_of
from lumvak.core.spelling import Spelling
from lumvak.files.export import pdf
from lumvak.files.export.formats import FORMATS, exported
from lumvak.files.export.pdf import MARGIN_MM, MARK_MM, OVERLAP_MM, POINTS, printable, tiling
from lumvak.files.problem import FileProblem
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


@pytest.mark.parametrize(("paper", "size"), [("a4", {210.0, 297.0}), ("letter", {215.9, 279.4})])
def test_a_printed_page_is_true_to_a_tenth_of_a_millimetre(
    evaluation: Evaluation, paper: str, size: set[float]
) -> None:
    document = pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf", paper)))
    sides = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    assert len(document.pages) == sum(
        tiling(side.width_mm, side.height_mm, paper).pages for side in sides
    )
    for page in document.pages:
        box = page.mediabox
        assert {round(float(side) / POINTS, 1) for side in (box.width, box.height)} == size
        bars = [
            line
            for line in lines_of(page)
            if abs(abs(line[2] - line[0]) - 100.0) < 0.1 and line[1] == line[3]
        ]
        assert len(bars) == 1
    first = document.pages[0]
    # A group strip: 15 mm wide, 146.8 mm long; a series strip: 5 by 32.8 mm.
    sizes = {tuple(sorted(np.round(np.ptp(path, axis=0), 1).tolist())) for path in paths_of(first)}
    assert {(15.0, 146.8), (5.0, 32.8)} <= sizes


def test_registration_marks_are_the_same_place_and_lie_on_nothing(evaluation: Evaluation) -> None:
    side = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )[0]
    tiles = tiling(side.width_mm, side.height_mm, "a4")
    assert (tiles.across, tiles.down) == (2, 1)
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf"))).pages[:2]
    ticks = [
        [
            line
            for line in lines_of(page)
            if abs(line[2] - line[0]) < 1e-3 and abs(abs(line[3] - line[1]) - MARK_MM) < 0.01
        ]
        for page in pages
    ]
    (first,), (second,) = ({round(line[0], 2) for line in found} for found in ticks)
    # What lies under the mark of the first page lies under that of the next.
    step = tiles.corner_mm(1, 0)[0]
    assert first - MARGIN_MM == pytest.approx(second - MARGIN_MM + step, abs=0.02)
    assert second == pytest.approx(MARGIN_MM + OVERLAP_MM / 2, abs=0.02)
    for found in ticks:
        assert len(found) == 2
        for _, low, _, high in found:
            middle = tiles.page_mm[1] - (low + high) / 2
            assert not MARGIN_MM < middle < MARGIN_MM + tiles.room_mm[1]


def test_every_strip_has_its_number_and_its_welds(evaluation: Evaluation) -> None:
    cuts = evaluation.cuts
    numbers = numbers_of(cuts)
    assert sorted(numbers.values()) == list(range(1, len(cut_lines(cuts)) + 1))
    for side, face in zip(
        template_of(evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, cuts),
        (0, 1),
        strict=True,
    ):
        own = [cut for cut in cuts if cut.face == face]
        texts = [shape for shape in side.shapes if shape.layer.endswith("NUMBERS")]
        assert sorted(shape.text for shape in texts) == sorted(
            str(numbers[cut.size]) for cut in own
        )
        welds = [shape for shape in side.shapes if shape.layer.endswith("WELDS")]
        # Two crosses of two lines at each terminal that a strip lies on.
        assert len(welds) == 4 * sum(len(cut.joins) for cut in own)
        spots = {shape.points[0] for shape in side.shapes if shape.layer.endswith("TERMINALS")}
        for shape in welds:
            middle = np.mean(shape.points, axis=0)
            away = min(float(np.hypot(*(middle - spot))) for spot in spots)
            assert away == pytest.approx(WELD_APART_MM)
    texts_of = [
        page.extract_text()
        for page in pypdf.PdfReader(io.BytesIO(exported(evaluation, "pdf"))).pages
    ]
    assert "as the pack faces you" in texts_of[0]
    assert "turn the pack over to the side" in texts_of[-1]


def test_svg_keeps_every_dimension(evaluation: Evaluation) -> None:
    root = ET.fromstring(exported(evaluation, "svg"))
    space = "{http://www.w3.org/2000/svg}"
    width = float(root.attrib["width"].removesuffix("mm"))
    assert root.attrib["viewBox"].split()[2] == f"{width:.3f}"
    groups = {item.attrib["id"]: item for item in root.iter(f"{space}g") if "id" in item.attrib}
    assert {"A_CELLS", "A_STRIPS_GROUP", "A_STRIPS_SERIES", "B_CELLS", "B_LEADS"} <= groups.keys()
    circles = list(groups["A_CELLS"].iter(f"{space}circle"))
    assert len(circles) == 98 and {item.attrib["r"] for item in circles} == {"10.650"}
    strip = next(groups["A_STRIPS_GROUP"].iter(f"{space}polygon")).attrib["points"]
    corners = np.array([pair.split(",") for pair in strip.split()], dtype=float)
    assert sorted(np.ptp(corners, axis=0)) == pytest.approx([15.0, 146.8])


def test_dxf_opens_and_keeps_every_dimension(evaluation: Evaluation, tmp_path: Path) -> None:
    path = tmp_path / "pack.dxf"
    path.write_bytes(exported(evaluation, "dxf"))
    document = ezdxf.readfile(path)
    assert document.units == ezdxf.units.MM
    assert not document.audit().has_errors
    model = document.modelspace()
    cells = model.query('CIRCLE[layer=="A_CELLS"]')
    assert len(cells) == 98 and {item.dxf.radius for item in cells} == {10.65}
    strips = model.query('LWPOLYLINE[layer=="B_STRIPS_GROUP"]')
    corners = np.array([point[:2] for point in strips[0].get_points()])
    assert sorted(np.ptp(corners, axis=0)) == pytest.approx([15.0, 146.8])
    assert strips[0].closed


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
    for to in (item for item in FORMATS if item != "placing"):
        out = tmp_path / f"pack.{to}"
        assert main(["export", str(BARROW), "--to", to, "-o", str(out)]) == 0
        assert out.stat().st_size > (900 if to == "wiring-csv" else 5000)
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
    with pytest.raises(FileProblem):
        from lumvak.files.catalogue_file import load_catalogue
        from lumvak.files.export.formats import write_export
        from lumvak.files.project_file import load_project

        catalogue, _ = load_catalogue()
        evaluation = evaluate(load_project(BARROW, catalogue), catalogue)
        write_export(evaluation, "svg", tmp_path / "pack.svg" / "no" / "folder.svg")


def test_a_name_that_the_font_lacks_is_said_on_every_page(
    barrow: Project, catalogue: Catalogue
) -> None:
    named = with_values(barrow, {"name": "Obstkarren 電池 – Ω"})
    pages = pypdf.PdfReader(io.BytesIO(exported(evaluate(named, catalogue), "pdf"))).pages
    for page in pages:
        text = page.extract_text()
        assert "Obstkarren ?? – Ω" in text
        assert "“?” stands for U+96FB, U+6C60, which the font lacks." in text
    assert printable("nickel 0.1 × 5 mm², 15 K/W") == ("nickel 0.1 × 5 mm², 15 K/W", [])


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


def test_every_shape_is_drawn_on_each_page_that_it_reaches_and_on_few_others(
    evaluation: Evaluation, monkeypatch: pytest.MonkeyPatch
) -> None:
    pages: dict[Callable[[float, float], tuple[float, float]], set[int]] = {}

    def note(_: object, shape: Shape, at: Callable[[float, float], tuple[float, float]]) -> None:
        pages.setdefault(at, set()).add(id(shape))

    monkeypatch.setattr(pdf, "_shape", note)
    sides = template_of(
        evaluation.laid_out.joined_pack, evaluation.laid_out.clearance.ends, evaluation.cuts
    )
    pdf.pdf_bytes(sides, "a title")
    assert len(pages) == sum(tiling(item.width_mm, item.height_mm, "a4").pages for item in sides)
    side_of = {id(shape): side for side in sides for shape in side.shapes}
    wanted = 0
    for at, drawn in pages.items():
        side = side_of[next(iter(drawn))]
        for shape in side.shapes:
            places = [at(*point) for point in shape.points]
            there = any(0.0 < x < 297.0 * POINTS and 0.0 < y < 297.0 * POINTS for x, y in places)
            on_paper = any(
                MARGIN_MM * POINTS < x < (210.0 - MARGIN_MM) * POINTS
                and 28.0 * POINTS < y < (297.0 - MARGIN_MM) * POINTS
                for x, y in places
            )
            wanted += there
            assert id(shape) in drawn or not on_paper
    assert sum(map(len, pages.values())) < 1.5 * wanted


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
