"""The power path as a whole: what a dead short gives, and a band typed for the fuse."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.catalogue.power_parts import Fuse
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.power.fuses import SHORT_OPENS_S, fuse_curves
from lumvak.core.time_current import TIMES_S, at_time
from tests.length import so_many
from tests.needs import random_need


@pytest.mark.parametrize("place", ["cells", "board", "output"])
def test_a_short_circuit_is_told_at_its_most_and_at_its_least(
    place: str, barrow: Project, catalogue: Catalogue
) -> None:
    evaluation = evaluate(with_values(barrow, {"power.fuse_place": place}), catalogue)
    figures = {
        key: figure.number
        for key, figure in evaluation.figures.items()
        if isinstance(figure.value, float)
    }
    joints, board, leads = (
        figures[key] for key in ("network.joint_ohm", "power.board_ohm", "leads.resistance_ohm")
    )
    # The most: full, at 1 kHz, up to where the fuse sits.
    quick = 14 * figures["cell.resistance_ac_ohm"] / 7 + joints
    quick += {"cells": 0.0, "board": board, "output": board + leads}[place]
    assert evaluation.power.short_a.number == pytest.approx(58.8 / quick)
    # The least: nearly empty, cold, worn, at the end of the leads, wherever the fuse sits.
    slow = 14 * figures["cell.worst_ohm"] / 7 + joints + board + leads
    volts = 14 * figures["cell.nearly_empty_v"]
    assert evaluation.power.short_least_a.number == pytest.approx(volts / slow)
    assert evaluation.power.short_least_a.number < 0.5 * evaluation.power.short_a.number
    assert ("fuse-late" in {item.code for item in evaluation.findings}) == (place == "output")


@settings(max_examples=so_many(8, 25), deadline=None)
@given(seed=st.integers(0, 10**6))
def test_the_fuse_breaks_the_most_and_ends_the_least(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(random_need(seed), catalogue)
    power = evaluation.power
    assert power.short_least_a.number < power.short_a.number
    for place in (power.fuse, power.charge_fuse):
        if place.chosen is None:
            continue
        fuse = place.chosen.part
        assert fuse.breaking_a >= 1.25 * power.short_a.number
        most, least = fuse_curves(fuse, 25.0)[1], power.short_least_a.number
        wire = power.charge_wire if place is power.charge_fuse else evaluation.sized.wire
        # It opens in time, or the wire carries so little for good.
        assert at_time(most, SHORT_OPENS_S) <= least or least <= float(wire.harm_a[-1])


def test_a_typed_band_moves_the_curve_of_the_fuse(barrow: Project, catalogue: Catalogue) -> None:
    band = tuple(
        {"ratio": ratio, "least_s": least, "most_s": most}
        for ratio, least, most in ((1.5, 100.0, 400.0), (10.0, 0.01, 0.1))
    )
    evaluation = evaluate(
        with_values(barrow, {"power.fuse": "flint-40", "power.fuse_band": band}), catalogue
    )
    curve = next(curve for curve in evaluation.power.curves if curve.key == "fuse")
    assert float(np.interp(np.log(100.0), np.log(TIMES_S), curve.low_a)) == pytest.approx(
        60.0, rel=0.02
    )
    assert isinstance(evaluation.power.fuse.part, Fuse)
    assert len(evaluation.power.fuse.part.band) == 2
