"""The room as a shape, and what is wrong with one."""

import math

import numpy as np
import pytest

from lumvak.core.arrangement.outline import inside, outline_flaws, outline_of
from lumvak.core.document.arrangement import Hole, Room
from lumvak.core.spelling import spoken

SQUARE = ((0.0, 0.0), (100.0, 0.0), (100.0, 100.0), (0.0, 100.0))


def test_areas_are_those_of_geometry() -> None:
    box, _ = outline_of(Room(kind="box", length_mm=200.0, width_mm=90.0))
    assert box is not None and box.area == pytest.approx(18000.0)
    disc, _ = outline_of(Room(kind="round", diameter_mm=120.0))
    # Drawn within the circle, so that nothing is held to fit that does not.
    assert disc is not None and 0.9999 * math.pi * 3600 < disc.area <= math.pi * 3600
    holed, _ = outline_of(
        Room(kind="box", length_mm=200.0, width_mm=90.0, holes=(Hole(50.0, 45.0, 20.0),))
    )
    # Drawn around the hole, for the same reason.
    assert (
        holed is not None and 18000.0 - 1.001 * math.pi * 100 < holed.area < 18000 - math.pi * 100
    )
    assert outline_of(Room(kind="none")) == (None, ())


@pytest.mark.parametrize(
    ("room", "code"),
    [
        ({"outline": SQUARE[:2]}, "outline-open"),
        ({"outline": ((0.0, 0.0), (1.0, 0.0), (2.0, 0.0))}, "outline-empty"),
        ({"outline": ((0.0, 0.0), (100.0, 100.0), (100.0, 0.0), (0.0, 90.0))}, "outline-crosses"),
        (
            {"outline": SQUARE, "cut_outs": (((90.0, 90.0), (120.0, 90.0), (90.0, 120.0)),)},
            "cut-out-outside",
        ),
    ],
)
def test_what_is_wrong_is_told_with_its_place(room: dict[str, object], code: str) -> None:
    made = Room(kind="outline", **room)  # type: ignore[arg-type]
    (flaw,) = outline_flaws(made)
    assert flaw.code == code and spoken(flaw.text) and spoken(flaw.do)
    if code == "outline-crosses":
        # The diagonal y = x meets the edge from (100, 0) to (0, 90): x = 9000 ÷ 190.
        assert (flaw.x_mm, flaw.y_mm) == pytest.approx((9000 / 190, 9000 / 190))


def test_a_round_cell_fits_into_a_corner_that_its_square_does_not() -> None:
    disc, _ = outline_of(Room(kind="round", diameter_mm=100.0))
    x, half = np.array([50.0, 10.5]), np.full((2, 2), 10.0)
    y = np.array([50.0, 50.0])
    assert inside(disc, x, y, half, np.array([True, True])).tolist() == [True, True]
    assert inside(disc, x, y, half, np.array([False, False])).tolist() == [True, False]
    assert inside(None, x, y, half, np.array([False, False])).all()
