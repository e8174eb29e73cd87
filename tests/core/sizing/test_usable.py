import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue, Parts
from lumvak.core.catalogue.cells import Cell, Chemistry
from lumvak.core.cells.cell_model import FAST_SHARE, SLOW_SHARE
from lumvak.core.cells.cell_table import CellTable, cell_table
from lumvak.core.checked import made
from lumvak.core.need.demand import Load
from lumvak.core.sizing.counts import (
    NEEDS,
    PARALLEL_LIMIT,
    largest_need,
    parallel_ceiling,
    parallel_needs,
    series_max,
    smallest_parallel,
)
from lumvak.core.sizing.packs import Packs, mean_load
from lumvak.core.sizing.terms import CountedPath, Terms
from lumvak.core.sizing.usable import end_current_a, heating_k_per_min, usable_fraction, worked
from tests.length import so_many

ROWS = np.array([0])
STEADY_FACTOR = FAST_SHARE + SLOW_SHARE


def straight_cell(**changes: object) -> tuple[Catalogue, CellTable]:
    """A cell with a straight rest-voltage line from 3 to 4 V: its results can be written out."""
    chemistry = Chemistry(
        id="line",
        name="straight line",
        family="cobalt",
        curve=((0.0, 3.0), (1.0, 4.0)),
        curve_source="made for the test",
    )
    values: dict[str, object] = {
        "id": "straight",
        "name": "Straight",
        "chemistry": "line",
        "format": "18650",
        "voltage_full_v": 4.0,
        "voltage_nominal_v": 3.5,
        "voltage_empty_v": 2.0,
        "capacity_typical_ah": 2.0,
        "capacity_min_ah": 2.0,
        "continuous_a": 10.0,
        "pulse_a": 20.0,
        "pulse_s": 10.0,
        "charge_standard_a": 1.0,
        "charge_max_a": 2.0,
        "resistance_dc_ohm": 0.02,
        "mass_g": 50.0,
        "diameter_mm": 18.0,
        "height_mm": 65.0,
        "price": 2.0,
    }
    cell = made(Cell, {**values, **changes})
    catalogue = Catalogue([Parts(chemistries=(chemistry,), cells=(cell,))])
    return catalogue, without_lag(cell_table(catalogue, catalogue.cell_list, 0.05))


def without_lag(table: CellTable) -> CellTable:
    """The same cells with no lag of the surface and no reversible heat."""
    none = np.zeros(len(table.cells))
    return replace(
        table,
        behaviours=tuple(
            replace(item, lag_s=1e-9, entropy_v_per_k=0.0) for item in table.behaviours
        ),
        lag_s=none,
        entropy_v_per_k=none,
    )


def terms_for(**changes: object) -> Terms:
    values: dict[str, object] = {
        "load": Load(20.0, None),
        "mean_share": 1.0,
        "stop_v": 31.0,
        "peak_a": 40.0,
        "peak_s": 8.0,
        "endurance_basis": "runtime",
        "endurance": 1.0,
        "charger_a": 5.0,
        "derating": 0.8,
        "end_charge": 0.05,
        "least_usable": 0.75,
        "peak_charge": 0.5,
        "ohm_factor": np.array([1.0]),
        "lag_factor": np.array([1.0]),
        "path": CountedPath(0.0, np.array([0.0]), False, 0.0),
        "reserve": np.array([0.9]),
        "pulse_a": np.array([20.0]),
        "peak_share": np.array([1.0]),
        "film_w_per_m2_k": 5.0,
        "ambient_c": 25.0,
        "coldest_c": 25.0,
        "temperature_limit_c": 500.0,
    }
    return Terms(**{**values, **changes})  # type: ignore[arg-type]


def pack(series: float, parallel: float) -> tuple[np.ndarray, np.ndarray]:
    return np.array([series]), np.array([parallel])


@pytest.mark.parametrize(
    ("highest", "full", "count"),
    [
        (43.0, 4.2, 10),
        (42.0, 4.2, 10),
        (41.99, 4.2, 9),
        (54.6, 4.2, 13),
        (58.8, 4.2, 14),
        (21.75, 3.65, 5),
        (3.0, 4.2, 0),
        (0.3, 0.1, 3),
    ],
)
def test_most_in_series_is_never_rounded_up(highest: float, full: float, count: int) -> None:
    assert series_max(highest, full) == count


def test_usable_share_of_a_straight_cell_by_hand() -> None:
    # At rest 10 cells hold 31 V down to a tenth of the charge; with next to no resistance no sag.
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    usable = usable_fraction(Packs(table, ROWS, *pack(10, 5), terms_for()))
    assert float(usable[0]) == pytest.approx(0.9, abs=2e-6)


def test_usable_share_counts_the_path_outside_the_cells() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    outside = CountedPath(0.02, np.array([0.01]), False, 0.02)
    # 20 A through 0.02 + 9 x 0.01 ohm is 2.2 V: 33.2 V at rest, a charge of 0.32.
    usable = usable_fraction(Packs(table, ROWS, *pack(10, 5), terms_for(path=outside)))
    assert float(usable[0]) == pytest.approx(0.68, abs=1e-6)


def test_joints_shared_by_strips_fall_with_the_parallel_count() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    shared = CountedPath(0.02, np.array([0.05]), True, 0.02)
    usable = usable_fraction(Packs(table, ROWS, *pack(10, 5), terms_for(path=shared)))
    assert float(usable[0]) == pytest.approx(0.68, abs=1e-6)


def test_a_cell_is_empty_before_the_equipment_stops() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    # The cells' own empty voltage of 2 V lies under the curve: all of it is there.
    terms = terms_for(stop_v=20.0)
    assert float(usable_fraction(Packs(table, ROWS, *pack(10, 5), terms))[0]) == 1.0


def test_a_rest_curve_is_scaled_to_the_cells_own_empty_voltage() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7, voltage_empty_v=3.4)
    # 3.4 V is 0 and 4 V is 1: halfway a cell rests at 3.7 V.
    assert float(table.ocv_at(ROWS, 0.5)[0]) == pytest.approx(3.7)
    terms = terms_for(stop_v=20.0)
    assert float(usable_fraction(Packs(table, ROWS, *pack(10, 5), terms))[0]) == pytest.approx(
        1.0, abs=5e-6
    )


def test_equipment_without_a_cut_off_is_ended_by_the_cells_alone() -> None:
    _, table = straight_cell()
    # 4 A through the cell's steady resistance, and nothing of the path counts.
    outside = CountedPath(0.05, np.array([0.01]), False, 0.05)
    terms = terms_for(stop_v=None, path=outside)
    usable = float(usable_fraction(Packs(table, ROWS, *pack(10, 5), terms))[0])
    assert usable == 1.0
    _, higher = straight_cell(voltage_empty_v=2.99)
    share = float(usable_fraction(Packs(higher, ROWS, *pack(10, 5), terms))[0])
    charge = 1.0 - share
    shape = float(np.interp(charge, higher.charge, higher.ohm_shape[0]))
    rest = float(higher.ocv_at(ROWS, charge)[0])
    assert rest - 4.0 * 0.02 * STEADY_FACTOR * shape == pytest.approx(2.99, abs=1e-9)


def test_nothing_is_usable_where_even_the_full_pack_sags_away() -> None:
    _, table = straight_cell()
    assert float(usable_fraction(Packs(table, ROWS, *pack(7, 5), terms_for()))[0]) == 0.0


def test_usable_share_at_a_known_sag() -> None:
    # 4 A a cell through the steady resistance at the crossing's own charge.
    _, table = straight_cell()
    usable = float(usable_fraction(Packs(table, ROWS, *pack(10, 5), terms_for()))[0])
    charge = 1.0 - usable
    shape = float(np.interp(charge, table.charge, table.ohm_shape[0]))
    terminal = 10 * (3.0 + charge - 4.0 * 0.02 * STEADY_FACTOR * shape)
    assert terminal == pytest.approx(31.0, abs=1e-9)


@given(st.floats(300.0, 1500.0), st.integers(3, 12))
@settings(max_examples=so_many(15, 60))
def test_a_power_load_at_the_crossing_draws_its_power(power: float, parallel: int) -> None:
    _, table = straight_cell()
    outside = CountedPath(0.015, np.array([0.0003]), False, 0.015)
    terms = terms_for(load=Load(None, power), path=outside)
    usable = float(usable_fraction(Packs(table, ROWS, *pack(10, parallel), terms))[0])
    if not 0.001 < usable < 0.999:
        return
    charge = 1.0 - usable
    shape = float(np.interp(charge, table.charge, table.ohm_shape[0]))
    current = power / 31.0
    inside = 0.02 * STEADY_FACTOR * shape / parallel
    terminal = 10 * (3.0 + charge - current * inside) - current * (0.015 + 9 * 0.0003)
    assert terminal == pytest.approx(31.0, abs=1e-8)


def test_needs_of_a_current_load_by_hand() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    needs = parallel_needs(Packs(table, ROWS, *pack(10, 5), terms_for(stop_v=30.0)))
    usable = float(usable_fraction(Packs(table, ROWS, *pack(10, 5), terms_for(stop_v=30.0)))[0])
    assert float(needs["capacity"][0]) == pytest.approx(20.0 / (2.0 * 0.9 * usable))
    assert float(needs["continuous"][0]) == pytest.approx(20.0 / (10.0 * 0.8))
    assert float(needs["peak"][0]) == pytest.approx(2.0)
    assert float(needs["charge"][0]) == pytest.approx(2.5)


@pytest.mark.parametrize("share", [1.0, 0.7])
def test_the_peak_is_held_exactly_at_its_charge(share: float) -> None:
    _, table = straight_cell()
    outside = CountedPath(0.01, np.array([0.002]), True, 0.008)
    terms = terms_for(stop_v=29.0, path=outside, peak_share=np.array([share]))
    need = float(parallel_needs(Packs(table, ROWS, *pack(10, 5), terms))["sag"][0])
    # 20 A flow for good and 40 A at the peak; its leads are those for the peak.
    felt = 20.0 + 20.0 * share
    inside = 0.02 * STEADY_FACTOR / need
    terminal = 10 * (3.5 - felt * inside) - 40.0 * (0.008 + 9 * 0.002 / need)
    assert terminal == pytest.approx(29.0, abs=1e-9)


def test_the_peak_takes_no_cell_under_its_empty_voltage() -> None:
    _, table = straight_cell(voltage_empty_v=2.999)
    terms = terms_for(stop_v=10.0)
    need = float(parallel_needs(Packs(table, ROWS, *pack(10, 5), terms))["sag"][0])
    rest = float(table.ocv_at(ROWS, 0.5)[0])
    assert rest - 40.0 * 0.02 * STEADY_FACTOR / need == pytest.approx(2.999, abs=1e-9)


def test_no_parallel_count_holds_a_peak_over_the_rest_voltage() -> None:
    _, table = straight_cell()
    needs = parallel_needs(Packs(table, ROWS, *pack(10, 5), terms_for(stop_v=35.1)))
    assert math.isinf(float(needs["sag"][0]))
    least = smallest_parallel(table, ROWS, np.array([10.0]), terms_for(stop_v=35.1))
    assert math.isinf(float(least[0]))


def test_in_the_cold_the_run_warms_its_cells() -> None:
    _, table = straight_cell()
    cold = terms_for(
        coldest_c=-10.0,
        ambient_c=-10.0,
        ohm_factor=np.array([2.51]),
        lag_factor=np.array([2.51]),
        temperature_limit_c=50.0,
    )
    packs = Packs(table, ROWS, *pack(10, 2), cold)
    # Apart from the engine: half of the rise meets the mean resistance, to a fixed point.
    span = np.linspace(0.05, 1.0, 20_001)
    mean_ohm = (
        0.02 * STEADY_FACTOR * float(np.interp(span, table.charge, table.ohm_shape[0]).mean())
    )
    seconds = 3600.0 * 0.75 * 2 * 2.0 * 0.9 / 20.0
    lump = packs.lump
    settled = float((lump.kelvin_per_watt * -np.expm1(-seconds / lump.time_constant_s))[0])
    rise = 0.0
    for _ in range(200):
        middle = min(-10.0 + 0.5 * rise, 25.0)
        factor = float(np.interp(middle, [-10.0, 0.0, 10.0, 25.0], [2.51, 1.96, 1.51, 1.0]))
        rise = 0.5 * (rise + 20 * 10.0**2 * mean_ohm * factor * settled)
    assert float(packs.cold_rise_k[0]) == pytest.approx(rise, rel=0.06)
    still = Packs(table, ROWS, *pack(10, 2), terms_for(coldest_c=25.0))
    assert float(still.cold_rise_k[0]) == 0.0
    # By the end they are as warm as cells that began at 25 degC may count.
    assert -10.0 + rise > 25.0
    assert float(packs.cell_ohm[0]) == pytest.approx(float(still.cell_ohm[0]))


@given(
    st.floats(2.0, 120.0),
    st.floats(0.2, 3.0),
    st.integers(10, 14),
    st.booleans(),
)
@settings(max_examples=so_many(20, 80))
def test_the_smallest_parallel_serves_and_one_less_does_not(
    current: float, hours: float, series: int, power: bool
) -> None:
    _, table = straight_cell()
    load = Load(None, current * 35.0) if power else Load(current, None)
    terms = terms_for(load=load, endurance=hours, stop_v=28.0, peak_a=1.5 * current)
    count = float(smallest_parallel(table, ROWS, np.array([float(series)]), terms)[0])
    if math.isinf(count):
        at_most = parallel_needs(Packs(table, ROWS, *pack(series, PARALLEL_LIMIT), terms))
        assert float(largest_need(at_most)[0]) > PARALLEL_LIMIT
        return
    assert float(
        largest_need(parallel_needs(Packs(table, ROWS, *pack(series, count), terms)))[0]
    ) <= (count + 1e-9)
    if count > 1:
        fewer = parallel_needs(Packs(table, ROWS, *pack(series, count - 1), terms))
        assert float(largest_need(fewer)[0]) > count - 1


@given(st.integers(1, 40), st.floats(5.0, 100.0))
@settings(max_examples=so_many(10, 40))
def test_more_cells_in_parallel_never_ask_for_more(parallel: int, current: float) -> None:
    _, table = straight_cell()
    terms = terms_for(load=Load(None, current * 35.0), stop_v=28.0)
    few = parallel_needs(Packs(table, ROWS, *pack(10, parallel), terms))
    many = parallel_needs(Packs(table, ROWS, *pack(10, parallel + 1), terms))
    for name in NEEDS:
        assert float(many[name][0]) <= float(few[name][0]) * (1 + 1e-9)


def test_the_end_current_of_a_power_load_solves_the_sagging_pack() -> None:
    _, table = straight_cell()
    terms = terms_for(load=Load(None, 600.0), stop_v=25.0)
    current = float(end_current_a(Packs(table, ROWS, *pack(10, 5), terms))[0])
    shape = float(np.interp(0.05, table.charge, table.ohm_shape[0]))
    ohm = 10 * 0.02 * STEADY_FACTOR * shape / 5
    assert (30.5 - current * ohm) * current == pytest.approx(600.0)
    stopped = terms_for(load=Load(None, 600.0), stop_v=30.0)
    assert float(end_current_a(Packs(table, ROWS, *pack(10, 5), stopped))[0]) == pytest.approx(20.0)


@pytest.mark.parametrize(
    ("basis", "amount"), [("runtime", 1.5), ("capacity", 12.0), ("energy", 400.0), ("open", 0.0)]
)
def test_the_wanted_charge_follows_its_basis(basis: str, amount: float) -> None:
    _, table = straight_cell()
    terms = terms_for(endurance_basis=basis, endurance=amount)
    wanted = float(worked(Packs(table, ROWS, *pack(10, 5), terms)).wanted_ah[0])
    current, volts = (float(item[0]) for item in mean_load(Packs(table, ROWS, *pack(10, 5), terms)))
    expected = {
        "runtime": amount * current,
        "capacity": amount,
        "energy": amount / volts,
        "open": 0.0,
    }[basis]
    assert wanted == pytest.approx(expected)


def test_mean_voltage_of_a_straight_cell_is_its_middle() -> None:
    _, table = straight_cell(resistance_dc_ohm=1e-7)
    current, volts = mean_load(Packs(table, ROWS, *pack(10, 5), terms_for()))
    assert float(current[0]) == 20.0
    assert float(volts[0]) == pytest.approx(10 * (3.0 + (1.0 + 0.05) / 2))


def test_warming_without_cooling_by_hand() -> None:
    _, table = straight_cell()
    rate = heating_k_per_min(
        Packs(table, ROWS, np.array([10.0]), np.array([5.0]), terms_for()), np.array([20.0])
    )
    span = np.linspace(0.05, 1.0, 200_001)
    mean = float(np.mean(np.interp(span, table.charge, table.ohm_shape[0])))
    by_hand = 60 * 4.0**2 * 0.02 * STEADY_FACTOR * mean / (0.05 * 950.0)
    assert float(rate[0]) == pytest.approx(by_hand, rel=1e-4)


@pytest.mark.parametrize(("need", "count"), [(4.0, 4), (4.0 + 1e-12, 4), (4.01, 5), (0.2, 1)])
def test_whole_cells(need: float, count: int) -> None:
    assert parallel_ceiling(need) == count
