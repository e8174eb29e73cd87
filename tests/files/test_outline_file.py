import math
import os
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import ezdxf
import pytest
import shapely

from lumvak.files.outline_file import load_outline
from lumvak.files.problem import FileProblem

L_SHAPE = [(10, 20), (210, 20), (210, 80), (110, 80), (110, 170), (10, 170)]
L_AREA = 200 * 60 + 100 * 90


def dxf(path: Path, units: int = 4, scale: float = 1.0) -> Path:
    """An L-shaped room with a screw hole, a square cut-out, a text and a loose line."""
    document = ezdxf.new()
    document.units = units
    model = document.modelspace()
    model.add_lwpolyline([(x * scale, y * scale) for x, y in L_SHAPE], close=True)
    model.add_circle((40 * scale, 40 * scale), 3 * scale)
    square = [(60, 60), (80, 60), (80, 80), (60, 80)]
    corners = [(x * scale, y * scale) for x, y in square]
    for one, two in zip(corners, corners[1:] + corners[:1], strict=True):
        model.add_line(one, two)
    model.add_text("housing")
    model.add_line((0, 0), (5, 5))
    document.saveas(path)
    return path


@pytest.mark.parametrize(("units", "scale"), [(4, 1.0), (1, 1 / 25.4), (5, 0.1)])
def test_a_dxf_outline_comes_in_true_millimetres(tmp_path: Path, units: int, scale: float) -> None:
    found = load_outline(dxf(tmp_path / "room.dxf", units, scale))
    shape = shapely.Polygon(found.corners)
    assert shape.area == pytest.approx(L_AREA, rel=1e-4)
    assert shape.bounds[:2] == (0.0, 0.0)
    assert shape.bounds[2:] == (pytest.approx(200.0, abs=0.01), pytest.approx(150.0, abs=0.01))
    (hole,) = found.holes
    assert hole.diameter_mm == pytest.approx(6.0, abs=0.01)
    # DXF counts upwards: 20 mm over the lower edge is 130 mm under the upper one.
    assert (hole.x_mm, hole.y_mm) == (pytest.approx(30.0, abs=0.01), pytest.approx(130.0, abs=0.01))
    assert shapely.Polygon(found.cut_outs[0]).area == pytest.approx(400.0, rel=1e-3)
    assert found.ignored == ("1 × TEXT", "1 × open line")


def test_an_svg_outline_with_curves(tmp_path: Path) -> None:
    path = tmp_path / "room.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="200mm" '
        'viewBox="0 0 300 200"><g transform="translate(20 10)">'
        '<path d="M0,0 H200 A50,50 0 0 1 200,100 H0 Z"/></g>'
        '<circle cx="60" cy="60" r="4"/><text x="1" y="1">housing</text></svg>',
        "utf-8",
    )
    found = load_outline(path)
    area = 200 * 100 + math.pi * 50**2 / 2
    assert shapely.Polygon(found.corners).area == pytest.approx(area, rel=1e-3)
    assert found.holes[0].diameter_mm == pytest.approx(8.0, abs=0.01)
    assert (found.holes[0].x_mm, found.holes[0].y_mm) == (
        pytest.approx(40.0, abs=0.01),
        pytest.approx(50.0, abs=0.01),
    )
    assert found.ignored == ("1 × text",)


@pytest.mark.parametrize(
    ("width", "height"),
    [
        ("300mm", "200mm"),
        ("1133.858px", "755.906px"),
        ("850.394pt", "566.929pt"),
        ("11.811in", "7.874in"),
        ("1133.858", "755.906"),
        ("30cm", "20cm"),
    ],
)
def test_an_svg_is_as_large_as_it_would_be_on_paper(
    tmp_path: Path, width: str, height: str
) -> None:
    path = tmp_path / "room.svg"
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        'viewBox="0 0 600 400"><rect x="0" y="0" width="600" height="400"/></svg>',
        "utf-8",
    )
    left, top, right, bottom = shapely.Polygon(load_outline(path).corners).bounds
    assert (right - left, bottom - top) == (
        pytest.approx(300.0, abs=0.02),
        pytest.approx(200.0, abs=0.02),
    )


def test_a_circle_alone_is_a_round_room(tmp_path: Path) -> None:
    document = ezdxf.new()
    document.units = ezdxf.units.MM
    document.modelspace().add_circle((5, 5), 40)
    path = tmp_path / "round.dxf"
    document.saveas(path)
    shape = shapely.Polygon(load_outline(path).corners)
    assert shape.area == pytest.approx(math.pi * 1600, rel=1e-3)


@pytest.mark.parametrize(
    ("name", "text", "said"),
    [
        ("room.txt", "x", "not a drawing"),
        ("room.svg", "<svg", "no SVG drawing that can be read"),
        ("room.dxf", "nonsense", "no DXF drawing"),
        ("empty.svg", '<svg xmlns="http://www.w3.org/2000/svg"/>', "no closed shape"),
        (
            "huge.svg",
            '<svg xmlns="http://www.w3.org/2000/svg"><rect width="9000" height="10"/></svg>',
            "over 5 m",
        ),
    ],
)
def test_what_is_no_outline_is_said(tmp_path: Path, name: str, text: str, said: str) -> None:
    path = tmp_path / name
    path.write_text(text, "utf-8")
    with pytest.raises(FileProblem, match=said):
        load_outline(path)
    with pytest.raises(FileProblem, match="cannot be read"):
        load_outline(tmp_path / "missing.svg")


def dxf_of(path: Path, *shapes: tuple[Any, ...]) -> Path:
    made = ezdxf.new(units=4)
    space = made.modelspace()
    for kind, *rest in shapes:
        getattr(space, f"add_{kind}")(*rest)
    made.saveas(path)
    return path


def svg_of(path: Path, inside: str) -> Path:
    head = '<svg xmlns="http://www.w3.org/2000/svg"><rect id="g0" width="9" height="9"/>'
    path.write_text(f"{head}{inside}</svg>", "utf-8")
    return path


def pipe(path: Path) -> Path:
    os.mkfifo(path)
    return path


USES = "".join(f'<g id="g{k}">' + f'<use href="#g{k - 1}"/>' * 10 + "</g>" for k in range(1, 10))
BOMBS: dict[str, tuple[Callable[[Path], Path], str]] = {
    "a huge arc": (
        lambda way: dxf_of(way / "a.dxf", ("arc", (0, 0), 1e9, 0, 350)),
        "from the origin",
    ),
    "loose lines": (
        lambda way: dxf_of(
            way / "a.dxf", *(("line", (k, 0.0), (k + 0.4, 1.0)) for k in range(2100))
        ),
        "loose lines",
    ),
    "copies of copies": (lambda way: svg_of(way / "a.svg", USES), "by reference"),
    "many shapes": (lambda way: svg_of(way / "a.svg", "<rect/>" * 6000), "over 5000 shapes"),
    "a pipe": (lambda way: pipe(way / "a.dxf"), "no plain file"),
}


@pytest.mark.parametrize("bomb", BOMBS)
def test_a_drawing_that_would_take_for_ever_is_refused_soon(tmp_path: Path, bomb: str) -> None:
    make, says = BOMBS[bomb]
    path = make(tmp_path)
    begin = time.monotonic()
    with pytest.raises(FileProblem, match=says):
        load_outline(path)
    assert time.monotonic() - begin < 10.0
