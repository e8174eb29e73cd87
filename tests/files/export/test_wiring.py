"""The wiring sheet opens as PDF and SVG, with every wire and measure; the wires as a table."""

import csv
import io
from xml.etree import ElementTree

import pypdf
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.evaluation import Evaluation
from lumvak.files.export.formats import exported


@pytest.fixture
def bricks(barrow: Project, catalogue: Catalogue, evaluation: Evaluation) -> Evaluation:
    first = evaluation.sized.choice.series - 6
    modules = ({"name": "lower", "groups": first, "plugs": 2}, {"name": "=upper", "groups": 6})
    return evaluate(with_values(barrow, {"balance_leads.modules": modules}), catalogue)


def test_the_sheet_has_every_wire_and_measure(bricks: Evaluation) -> None:
    series = bricks.sized.choice.series
    pages = pypdf.PdfReader(io.BytesIO(exported(bricks, "wiring"))).pages
    text = "\n".join(page.extract_text() for page in pages)
    layout = bricks.laid_out.joined_pack.layout
    assert f"{series + 2} wires of" in text
    assert f"lower: groups 1 to {series - 6}" in text
    for number in range(1, series + 3):
        assert f"\n{number}\n" in text
    assert "none: capped" in text
    assert "Sensor T1 at " in text
    left = float((layout.x_mm - layout.half_mm[:, 0]).min())
    wide = float((layout.x_mm + layout.half_mm[:, 0]).max()) - left
    assert f"{wide:.0f} × " in text
    assert "Main minus first" in text
    assert "lower, plug 1, from its wires:" in text
    assert "lower, plug 2, the half that faces it:" in text
    # Seen from the other half the pins are in the opposite order.
    facing = text.split("=upper, plug 1, the half that faces it:")[1]
    assert facing.index("7: tap") < facing.index("1: tap")
    drawn = exported(bricks, "wiring-svg").decode("utf-8-sig")
    root = ElementTree.fromstring(drawn)
    words = [item.text or "" for item in root.iter("{http://www.w3.org/2000/svg}text")]
    assert {f"B{joint}" for joint in range(series + 1)} <= set(words)
    assert words.count("side A") >= 1
    circles = sum(1 for _ in root.iter("{http://www.w3.org/2000/svg}circle"))
    # Every cell on both sides, and each lead once.
    assert circles == 2 * len(layout) + series + 1


def test_the_wires_as_a_table_are_safe_in_a_spreadsheet(bricks: Evaluation) -> None:
    rows = list(csv.DictReader(io.StringIO(exported(bricks, "wiring-csv").decode("utf-8-sig"))))
    assert len(rows) == bricks.sized.choice.series + 2
    assert {row["plug"] for row in rows if row["brick"] == "lower"} == {"1", "2"}
    assert not [row for row in rows if row["brick"].startswith("=")]
    level = bricks.balance.check.level_v
    for row in rows:
        assert float(row["expected_v"]) == pytest.approx(level[int(row["joint"])], abs=1e-3)
    assert [row["board_pin"] for row in rows].count("") == 1
