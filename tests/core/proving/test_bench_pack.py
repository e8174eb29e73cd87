"""Packs as they may be built: what is drawn has the spreads that were asked for."""

import numpy as np
import pytest

from lumvak.core.proving.bench_pack import PARTS, BenchPack, as_designed, built


def test_draws_have_their_spreads_and_their_seeds(bench_pack: BenchPack) -> None:
    drawn = built(bench_pack, 4000, 3)
    spreads = bench_pack.spreads
    for values, spread in (
        (np.log(drawn.cooling), spreads.cooling),
        (np.log(drawn.strip), spreads.strip),
        (np.log(drawn.parts[:, PARTS.index("bms")]), spreads.parts),
        (drawn.over_v, spreads.over_v),
        (drawn.trip - 1.0, spreads.trip),
        (drawn.charger - 1.0, spreads.charger),
    ):
        assert values.std() == pytest.approx(spread, rel=0.06)
        assert abs(values.mean()) < 4.0 * spread / np.sqrt(4000)
    # Of a group of P cells the spread from cell to cell is smaller by the root of P.
    own = np.log(drawn.capacity) - np.log(drawn.capacity).mean(axis=1, keepdims=True)
    groups = bench_pack.series
    expected = spreads.cell / np.sqrt(bench_pack.parallel) * np.sqrt(1.0 - 1.0 / groups)
    assert own.std() == pytest.approx(expected, rel=0.03)
    assert np.allclose(drawn.charge.sum(axis=1), 0.0)
    again = built(bench_pack, 4000, 3)
    assert np.array_equal(drawn.capacity, again.capacity)
    assert not np.array_equal(drawn.capacity, built(bench_pack, 4000, 4).capacity)


def test_as_designed_all_factors_are_one(bench_pack: BenchPack) -> None:
    plain = as_designed(bench_pack, 2)
    assert plain.many == 2 and (plain.capacity == 1.0).all() and (plain.charge == 0.0).all()


def test_a_group_warms_like_the_pack(bench_pack: BenchPack) -> None:
    """S groups with S times the resistance to the air, each of an Sth of the heat and the mass."""
    group, series = bench_pack.group, bench_pack.series
    assert group.kelvin_per_watt * group.joule_per_kelvin == pytest.approx(
        bench_pack.kelvin_per_watt * bench_pack.joule_per_kelvin
    )
    assert group.heat_path_ohm * series == pytest.approx(bench_pack.joint_ohm.sum())
