"""Packs group by group, held against closed forms."""

import numpy as np
import pytest

from lumvak.core.proving.bench_pack import BenchPack, as_designed
from lumvak.core.proving.groups_model import OVER_V, UNDER_V, GroupsModel


def test_at_rest_a_pack_shows_the_sum_of_its_groups(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    charge = np.linspace(0.3, 0.7, bench_pack.series)[None, :]
    seen = model.seen(model.at_charge(charge), np.zeros(1))
    rest = bench_pack.behaviour.rest(charge)
    assert seen.group_v == pytest.approx(rest)
    assert seen.pack_v[0] == seen.output_v[0] == pytest.approx(rest.sum())


def test_an_ampere_drops_at_once_what_lies_in_its_way(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    now = model.at_charge(np.full((1, bench_pack.series), 0.5))
    still, drawn = model.seen(now, np.zeros(1)), model.seen(now, np.ones(1))
    seen = bench_pack.behaviour
    factor = float(
        seen.charge_factor(np.array(0.5)) * seen.ohm_factor(np.array(bench_pack.ambient_c))
    )
    cells = bench_pack.series * seen.fast_ohm * factor / bench_pack.parallel
    joints, parts = bench_pack.joint_ohm.sum(), bench_pack.parts_ohm.sum()
    assert (still.pack_v - drawn.pack_v)[0] == pytest.approx(cells + joints)
    assert (drawn.pack_v - drawn.output_v)[0] == pytest.approx(parts)


def test_strip_and_leads_rise_by_their_time_constants(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    now = model.at_charge(np.full((1, bench_pack.series), 0.9))
    load = np.array([bench_pack.load_a])
    risen = model.after(now, load, bench_pack.strip_s)
    assert risen.strip_k[0] == pytest.approx(bench_pack.strip_k * (1.0 - np.exp(-1.0)))
    half = model.after(now, load / 2.0, 60.0 * bench_pack.leads_s)
    assert half.leads_k[0] == pytest.approx(bench_pack.leads_k / 4.0)


def test_what_is_drawn_is_missing_and_over_full_the_volts_go_on(bench_pack: BenchPack) -> None:
    model = GroupsModel(bench_pack, as_designed(bench_pack))
    now = model.at_charge(np.full((1, bench_pack.series), 0.5))
    after = model.after(now, np.array([10.0]), 360.0)
    assert (now.groups.charge - after.groups.charge) * bench_pack.group_ah == pytest.approx(1.0)

    def at_rest(charge: float) -> np.ndarray:
        return model.seen(model.at_charge(np.full((1, bench_pack.series), charge)), none).group_v

    none = np.zeros(1)
    assert (at_rest(1.1) - at_rest(1.0) >= 0.1 * OVER_V - 1e-9).all()
    assert (at_rest(0.0) - at_rest(-0.1) >= 0.1 * UNDER_V - 1e-9).all()
