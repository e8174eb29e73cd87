"""The working of a figure can be worked out anew: its inputs hold every factor of its value."""

import math
from collections.abc import Callable

import pytest

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import Figure
from lumvak.files.project_file import load_project
from tests.conftest import DEMOS

ROOT = math.sqrt
# What a reader does with the inputs, in their order.
WORKED: dict[str, Callable[..., float]] = {
    "cell.resistance_steady_ohm": lambda ten_s, over, cold: ten_s * over * cold,
    "cell.resistance_end_ohm": lambda steady, end: steady * end,
    "cell.resistance_mean_ohm": lambda steady, mean: steady * mean,
    "cell.worst_ohm": lambda ten_s, times: ten_s * times,
    "leads.resistance_ohm": lambda length, rho, area: 2.0 * length * rho * 1e-3 / area,
    "charge_leads.resistance_ohm": lambda length, rho, area: 2.0 * length * rho * 1e-3 / area,
    "joints.series.resistance_ohm": lambda rho, long, wide, thick, layers, strips: (
        rho * 1e-6 * long / (wide * thick * layers * strips)
    ),
    "joints.group.resistance_ohm": lambda rho, long, wide, thick, layers, strips: (
        rho * 1e-6 * long / (wide * thick * layers * strips)
    ),
    "joints.series.drop_mv": lambda current, milliohm: current * milliohm * 1e3,
    "joints.series.loss_w": lambda current, ohm: current**2 * ohm,
    "leads.drop_v": lambda current, ohm: current * ohm,
    "leads.loss_w": lambda current, ohm: current**2 * ohm,
    "path.resistance_ohm": lambda leads, board, parts, joint, count: (
        leads + board + parts + joint * count
    ),
    "pack.voltage_full_v": lambda series, cell: series * cell,
    "pack.voltage_nominal_v": lambda series, cell: series * cell,
    "pack.voltage_empty_v": lambda series, cell: series * cell,
    "pack.capacity_ah": lambda parallel, cell: parallel * cell,
    "pack.energy_wh": lambda volts, ah: volts * ah,
    "pack.cell_count": lambda series, parallel: series * parallel,
    "pack.current_per_cell_a": lambda current, parallel: current / parallel,
    "pack.sag_v": lambda current, series, ohm, parallel, path: (
        current * (series * ohm / parallel + path)
    ),
    "pack.end_voltage_v": lambda series, rest, current, ohm, parallel, path: (
        series * rest - current * (series * ohm / parallel + path)
    ),
    "power.spark_j": lambda microfarad, volts: 0.5 * microfarad * 1e-6 * volts**2,
    "charging.given_up_ah": lambda share, ah: (1.0 - share) * ah,
    "network.joint_ohm": lambda whole, cells: whole - cells,
    "heat.rise_steady_k": lambda heat, thermal: heat * thermal,
}
# The demos that have them all; some of these figures hang on what a pack has.
LEAST_HELD = 20


@pytest.mark.parametrize("demo", sorted(DEMOS.iterdir()), ids=lambda path: path.name)
def test_inputs_hold_every_factor(demo, catalogue: Catalogue) -> None:  # type: ignore[no-untyped-def]
    figures = evaluate(load_project(demo, catalogue), catalogue).figures
    held = 0
    for key, worked in WORKED.items():
        figure = figures.get(key)
        if figure is None or figure.origin not in ("computed", "assumed") or not figure.inputs:
            continue
        again = worked(*(part.number for part in figure.inputs))
        assert again == pytest.approx(figure.number, rel=1e-6, abs=1e-9), key
        held += 1
    assert held >= LEAST_HELD


@pytest.mark.parametrize("demo", sorted(DEMOS.iterdir()), ids=lambda path: path.name)
def test_what_sets_where_a_charge_stops_is_listed(demo, catalogue: Catalogue) -> None:  # type: ignore[no-untyped-def]
    evaluation = evaluate(load_project(demo, catalogue), catalogue)
    figure, charger = evaluation.figures["charging.stops_share"], evaluation.charging.charger
    inputs: dict[str, Figure] = {part.key: part for part in figure.inputs}
    assert inputs["charging.charger_a"].value == charger.amps
    held = inputs["charging.held_v"]
    assert held.number == evaluation.charging.verdict.highest.volts
    assert held.inputs[0].value == charger.volts
    assert ("charging.over_v" in inputs) == (evaluation.charging.verdict.ended_by == "board")
    # What the right charger would be sets nothing of it.
    assert "charge.voltage_v" not in inputs
