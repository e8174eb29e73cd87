"""The power path as a whole: what a dead short gives, and a band typed for the fuse."""

import numpy as np
import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Fuse
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.time_current import TIMES_S


@pytest.mark.parametrize("place", ["cells", "board", "output"])
def test_a_dead_short_is_the_full_voltage_over_what_lies_before_the_fuse(
    place: str, barrow: Project, catalogue: Catalogue
) -> None:
    seen = evaluate(with_values(barrow, {"power.fuse_place": place}), catalogue)
    ohm = seen.figures["network.effective_ohm"].number
    if place != "cells":
        ohm += seen.figures["power.board_ohm"].number
    if place == "output":
        ohm += seen.figures["leads.resistance_ohm"].number
    assert seen.power.short_a.number == pytest.approx(58.8 / ohm)
    assert ("fuse-late" in {item.code for item in seen.findings}) == (place == "output")


def test_a_typed_band_moves_the_curve_of_the_fuse(barrow: Project, catalogue: Catalogue) -> None:
    band = tuple({"ratio": ratio, "least_s": least, "most_s": most}
                 for ratio, least, most in ((1.5, 100.0, 400.0), (10.0, 0.01, 0.1)))  # fmt: skip
    seen = evaluate(
        with_values(barrow, {"power.fuse": "flint-40", "power.fuse_band": band}), catalogue
    )
    curve = next(curve for curve in seen.power.curves if curve.key == "fuse")
    assert float(np.interp(np.log(100.0), np.log(TIMES_S), curve.low_a)) == pytest.approx(
        60.0, rel=0.02
    )
    assert isinstance(seen.power.fuse.part, Fuse)
    assert len(seen.power.fuse.part.band) == 2
