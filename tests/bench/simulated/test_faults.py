"""Faults change what they say, and nothing else."""

import numpy as np
import pytest
from msgspec.structs import replace

from lumvak.bench.simulated.faults import (
    FAULTS,
    PLACES,
    FaultError,
    Hidden,
    hidden_at,
    places_of,
    told_of,
    with_fault,
)
from lumvak.core.proving.bench_pack import BenchPack, as_designed

# The parts of a built pack that each changes; the others are not in how it was built.
CHANGED = {
    "lost-cell": ["resistance", "capacity"],
    "high-resistance-joint": ["joints"],
    "weak-group": ["capacity"],
    "flat-group": ["charge"],
    "bms-trips-low": ["trip"],
    "worn-connector": ["parts"],
    "short-stopping-charger": ["charger"],
    "warm-strip": ["strip"],
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_fault_changes_one_thing(bench_pack: BenchPack, fault: str) -> None:
    sound = as_designed(bench_pack)
    bad = with_fault(bench_pack, sound, Hidden(fault, 1))
    changed = [
        name
        for name in sound.__struct_fields__
        if not np.array_equal(getattr(sound, name), getattr(bad, name))
    ]
    assert sorted(changed) == sorted(CHANGED.get(fault, []))


def test_a_fault_that_nobody_knows_is_refused(bench_pack: BenchPack) -> None:
    with pytest.raises(FaultError, match="weak-group"):
        hidden_at(bench_pack, "gremlins", np.random.default_rng(1))


def test_a_place_is_drawn_among_those_that_there_are(bench_pack: BenchPack) -> None:
    generator = np.random.default_rng(1)
    for fault, kind in PLACES.items():
        count = places_of(bench_pack, fault)
        assert count == bench_pack.series - (kind != "group")
        drawn = {hidden_at(bench_pack, fault, generator).place for _ in range(300)}
        assert drawn == set(range(count))
    alone = replace(bench_pack, parallel=1)
    with pytest.raises(FaultError, match="cannot have"):
        hidden_at(alone, "lost-cell", generator)


def test_what_a_bms_reads_through_wrong_leads() -> None:
    volts = np.array([3.6, 3.7, 3.8, 3.9])
    swapped = told_of(volts, [Hidden("swapped-leads", 1)])
    # Leads 2 and 3 stand for each other: the group between them is turned around.
    assert swapped == pytest.approx([3.6, 3.7 + 3.8, -3.8, 3.8 + 3.9])
    floating = told_of(volts, [Hidden("open-lead", 0)])
    assert floating == pytest.approx([0.7 * 7.3, 0.3 * 7.3, 3.8, 3.9])
    assert told_of(volts, [Hidden("misread-group", 2)]) == pytest.approx([3.6, 3.7, 3.95, 3.9])
    assert sum(swapped) == pytest.approx(sum(volts)) == pytest.approx(sum(floating))
