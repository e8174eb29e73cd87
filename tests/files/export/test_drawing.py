"""The template as SVG and DXF."""

import xml.etree.ElementTree as ET
from pathlib import Path

import ezdxf
import numpy as np
import pytest

from lumvak.core.evaluation import Evaluation
from lumvak.files.export.formats import exported


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
