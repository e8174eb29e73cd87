"""What a room is said to lack is enough when it is given."""

import re

import pytest
from msgspec.structs import replace

from lumvak.core.arrangement.proposals import placed
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.arrangement import Arrangement, Room
from lumvak.core.said import Text
from lumvak.core.spelling import spoken

L_SHAPE = ((0.0, 0.0), (110.0, 0.0), (110.0, 45.0), (45.0, 45.0), (45.0, 110.0), (0.0, 110.0))


def lacks(short: Text) -> dict[str, float]:
    return {name: float(mm) for mm, name in re.findall(r"([\d.]+) mm in (\w+)", spoken(short))}


@pytest.mark.parametrize(("series", "parallel"), [(10, 1), (7, 2), (4, 4)])
def test_a_tube_so_much_wider_holds_them(catalogue: Catalogue, series: int, parallel: int) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    tube = Room(kind="round", diameter_mm=40.0)
    short = placed(Arrangement(room=tube), cell, series, parallel, 1.5).short
    more = lacks(short)["diameter"]
    wide = replace(tube, diameter_mm=40.0 + more)
    assert placed(Arrangement(room=wide), cell, series, parallel, 1.5).fits
    # A tube without a height is asked for one where a layer holds a group: so high, it serves.
    asked = re.search(r"height: (\d+) mm for (\d+) layers", spoken(short))
    assert bool(asked) == (parallel == 1)
    if asked is None:
        return
    tall = float(asked[1])
    high = replace(tube, height_mm=tall)
    layered = placed(Arrangement(room=high), cell, series, parallel, 1.5)
    assert layered.fits and layered.layout.layer.max() >= 1


def test_an_l_shaped_room_is_filled_round_its_corner(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    room = Room(kind="outline", outline=L_SHAPE)
    for series, parallel in ((8, 2), (5, 3), (16, 1)):
        placing = placed(Arrangement(room=room, wall_mm=1.0), cell, series, parallel, 1.0)
        assert placing.fits, (series, parallel, placing.short)


def test_what_cannot_be_mended_by_room_is_said_so(catalogue: Catalogue) -> None:
    cell = catalogue.cells["ostrel-18-30p"]
    box = Room(kind="box", length_mm=60.0, width_mm=25.0, height_mm=70.0)
    placing = placed(Arrangement(room=box), cell, 6, 2, 1.5)
    said = lacks(placing.short)
    assert set(said) == {"length", "width", "height"}
    for name in said:
        bigger = replace(box, **{f"{name}_mm": getattr(box, f"{name}_mm") + said[name] + 0.05})
        assert placed(Arrangement(room=bigger), cell, 6, 2, 1.5).fits
