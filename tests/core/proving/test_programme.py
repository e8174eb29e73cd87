"""The loads of the tests, held against the runs of core/run and against sums by hand."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.core.cells.behaviour import TIME_CONSTANT_S
from lumvak.core.proving.bench_pack import BenchPack, as_designed
from lumvak.core.proving.groups_model import GroupsModel
from lumvak.core.proving.programme import (
    EASES_S,
    LEVELS,
    as_found,
    at_top,
    cool_enough_a,
    eases_s,
    emptied,
    hold_s,
    stairs,
    through_origin,
)
from lumvak.core.run.discharge import discharge
from lumvak.core.run.model import ModelledPack, RunStep


def test_like_groups_give_what_a_run_of_the_whole_gives(bench_pack: BenchPack) -> None:
    whole = ModelledPack(
        bench_pack.cell,
        bench_pack.behaviour,
        series=bench_pack.series,
        parallel=bench_pack.parallel,
        capacity_ah=bench_pack.group_ah,
        path_ohm=float(bench_pack.joint_ohm.sum() + bench_pack.parts_ohm.sum()),
        heat_path_ohm=float(bench_pack.joint_ohm.sum()),
        stop_v=bench_pack.stop_v,
        ambient_c=bench_pack.ambient_c,
        limit_c=200.0,
        kelvin_per_watt=bench_pack.kelvin_per_watt,
        joule_per_kelvin=bench_pack.joule_per_kelvin,
    )
    run = discharge(whole, [RunStep(20.0, None, 1e6)], 10.0)
    model = GroupsModel(
        replace(bench_pack, floor_v=bench_pack.cell.voltage_empty_v), as_designed(bench_pack)
    )
    gone = emptied(model, 20.0, np.ones((1, bench_pack.series)))
    assert gone.ah[0] == pytest.approx(run.taken_ah, rel=2e-3)
    assert gone.wh[0] == pytest.approx(run.delivered_wh, rel=3e-3)
    assert gone.warm_k[0] == pytest.approx(run.temperature_c[-1] - bench_pack.ambient_c, rel=0.02)


def test_the_weakest_group_ends_it(bench_pack: BenchPack) -> None:
    packs = as_designed(bench_pack)
    weak = packs.capacity.copy()
    weak[0, 4] = 0.8
    gone = emptied(GroupsModel(bench_pack, replace(packs, capacity=weak)), 20.0)
    sound = emptied(GroupsModel(bench_pack, packs), 20.0)
    assert gone.group[0] == 4 and gone.ah[0] == pytest.approx(0.8 * sound.ah[0], rel=0.03)


def test_full_is_where_the_last_current_shows_the_full_voltage(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    tail = bench_pack.tail_a
    volts = model.creeping_v(model.full, -tail).sum() + tail * model.joints_ohm[0]
    assert volts == pytest.approx(bench_pack.full_v, rel=2e-4)


def test_groups_that_gave_the_same_stand_apart_by_their_capacity(bench_pack: BenchPack) -> None:
    packs = as_designed(bench_pack)
    small = packs.capacity.copy()
    small[0, 0] = 0.9
    model = GroupsModel(bench_pack, replace(packs, capacity=small))
    full, now = model.full, as_found(model, 0.45)
    given = (full - now) * small
    assert np.ptp(given) < 1e-9 and now.mean() == pytest.approx(0.45)


def test_a_staircase_gives_the_path_by_regression(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    steps = stairs(model)
    assert steps.amps == pytest.approx([share * bench_pack.load_a for share in LEVELS])
    path = through_origin(steps.amps, steps.on_v - steps.out_v)
    assert path[0] == pytest.approx(bench_pack.parts_ohm.sum())
    assert through_origin(np.array([1.0, 2.0]), np.array([[0.1, 0.3]]))[0] == pytest.approx(0.14)
    charge = hold_s(bench_pack) * sum(LEVELS) * bench_pack.load_a / 3600.0
    assert charge <= 0.36 * bench_pack.group_ah


def test_a_pack_that_would_be_too_warm_is_discharged_more_slowly(bench_pack: BenchPack) -> None:
    assert cool_enough_a(replace(bench_pack, limit_c=150.0)) == bench_pack.load_a
    slow = cool_enough_a(replace(bench_pack, limit_c=bench_pack.ambient_c + 10.0))
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    assert slow < bench_pack.load_a and emptied(model, slow).warm_k[0] < 10.0


def test_a_rise_at_the_top_is_that_of_the_square(bench_pack: BenchPack) -> None:
    amps = np.array([5.0, 10.0, 15.0, 20.0])
    rises = np.array([[0.03], [0.002]]) * amps**2
    assert at_top(amps, rises) == pytest.approx([12.0, 0.8])
    # An offset that was there while cool drops out; one that was not pulls the line flat.
    assert at_top(amps, rises + 1.0)[0] != pytest.approx(12.0)


def test_what_comes_back_falls_by_the_same_share_in_each_span() -> None:
    seconds = 10.0 + EASES_S * np.arange(3)
    volts = 50.0 - np.exp(-seconds / np.array([[12.0], [35.0]]))
    assert eases_s(volts) == pytest.approx([12.0, 35.0])
    assert np.isnan(eases_s(np.array([[50.0, 50.0, 50.0], [50.0, 49.0, 48.0]]))).all()


def test_a_staircase_comes_back_by_the_slow_part_of_the_cells(bench_pack: BenchPack) -> None:
    """At least what the slow branch gives back from 10 s to 70 s; the lag comes on top."""
    steps = stairs(GroupsModel(bench_pack, as_designed(bench_pack)))
    cell, amps = bench_pack.behaviour, bench_pack.load_a / bench_pack.parallel
    assert (np.diff(steps.eased_v, axis=1) > 0.0).all()
    share = np.exp(-10.0 / TIME_CONSTANT_S) - np.exp(-70.0 / TIME_CONSTANT_S)
    least = bench_pack.series * amps * cell.slow_ohm * share
    warm_and_full = 0.6
    assert warm_and_full * least < steps.eased_v[0, 2] - steps.eased_v[0, 0] < 3.0 * least
