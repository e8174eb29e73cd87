"""Wire and fuse are one choice: a gauge is proposed that a fuse at hand guards."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.conductors.lead_wire import OFFERED_MM2
from lumvak.core.document.edit import with_values
from lumvak.core.document.project import Project
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import typed
from lumvak.core.power.fuses import hold_a
from lumvak.core.power.guarded_wire import charge_flow
from tests.length import so_many
from tests.needs import random_need


@settings(max_examples=so_many(8, 30), deadline=None)
@given(seed=st.integers(0, 10**6))
def test_no_fuse_is_left_out_that_a_thicker_wire_would_let_in(
    catalogue: Catalogue, seed: int
) -> None:
    project = random_need(seed)
    evaluation = evaluate(project, catalogue)
    if evaluation.power.fuse.chosen is not None:
        assert evaluation.power.fuse.chosen.serves
        return
    # The pack stays: with less on the way to it the search would take another.
    choice = evaluation.sized.sized_pack.choice
    picked = {
        "pack.cell": choice.cell.id,
        "pack.series": choice.series,
        "pack.parallel": choice.parallel,
    }
    for area in OFFERED_MM2:
        wider = with_values(project, {**picked, "leads.area_mm2": area})
        found = evaluate(wider, catalogue)
        # A power draws a little less through a thicker wire, which may be what lets a fuse in.
        same = np.allclose(found.power.draw.curve, evaluation.power.draw.curve, rtol=1e-9)
        if same and evaluation.sized.wire.area.number <= area:
            assert found.power.fuse.chosen is None


@settings(max_examples=so_many(8, 30), deadline=None)
@given(seed=st.integers(0, 10**6))
def test_the_wire_is_never_thinner_than_sizing_took_it(catalogue: Catalogue, seed: int) -> None:
    evaluation = evaluate(random_need(seed), catalogue)
    assert evaluation.figures["leads.resistance_ohm"].number <= (
        evaluation.figures["path.leads_ohm"].number * (1.0 + 1e-12)
    )
    guarded = evaluation.figures.get("leads.guarded_mm2")
    if guarded is not None:
        assert evaluation.figures["leads.area_mm2"].number == guarded.number


def test_a_wire_that_was_said_is_left_as_it_is(catalogue: Catalogue, barrow: Project) -> None:
    thin = with_values(barrow, {"leads.area_mm2": 1.0})
    assert "leads.guarded_mm2" not in evaluate(thin, catalogue).figures
    named = with_values(barrow, {"leads.wire": "withy-14"})
    assert "leads.guarded_mm2" not in evaluate(named, catalogue).figures
    without = with_values(barrow, {"power.fuse": "none"})
    assert "leads.guarded_mm2" not in evaluate(without, catalogue).figures


def test_a_larger_fuse_by_name_brings_a_thicker_wire(catalogue: Catalogue, barrow: Project) -> None:
    areas = [
        evaluate(with_values(barrow, {"power.fuse": fuse}), catalogue).sized.wire.area.number
        for fuse in ("flint-32", "flint-50", "flint-80")
    ]
    assert areas == sorted(areas)
    assert areas[-1] > areas[0]


def test_a_charger_not_known_is_one_that_a_fuse_carries(catalogue: Catalogue) -> None:
    ambient = typed("need.ambient_c", "Ambient temperature", 20.0, "°C")
    standard = typed("x", "standard", 150.0, "A")
    fuses = catalogue.rising_fuses
    flint = [fuse for fuse in fuses if fuse.id.startswith("flint")]
    few = [fuse for fuse in flint if fuse.rating_a <= 100.0]
    most = max(hold_a(fuse, 20.0) for fuse in few)
    flow = charge_flow(None, standard, few, None, 60.0, 6000.0, ambient)
    assert flow.number == pytest.approx(most) and flow.assumed
    # No larger than chargers are sold.
    assert charge_flow(None, standard, flint, None, 60.0, 6000.0, ambient).number == 100.0
    # One that is known, named or within reach is taken as it is.
    known = typed("need.charger_current_a", "Charger current", 150.0, "A")
    assert charge_flow(known, standard, fuses, None, 60.0, 6000.0, ambient) is known
    named = charge_flow(None, standard, fuses, "flint-100", 60.0, 6000.0, ambient)
    assert named is standard
    small = typed("x", "standard", 10.0, "A")
    assert charge_flow(None, small, fuses, None, 60.0, 6000.0, ambient) is small
    # Where no fuse at all stands the voltage nothing is made up.
    assert charge_flow(None, standard, fuses, None, 900.0, 6e3, ambient) is standard
    assert math.isfinite(most)
