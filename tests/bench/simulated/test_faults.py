"""Faults change what they say, and nothing else."""

import numpy as np
import pytest

from lumvak.bench.simulated.faults import FAULTS, FaultError, with_fault
from lumvak.core.proving.bench_pack import BenchPack, as_designed

CHANGED = {
    "high-resistance-joint": "joints",
    "weak-group": "capacity",
    "flat-group": "charge",
    "bms-trips-low": "trip",
    "worn-connector": "parts",
    "short-stopping-charger": "charger",
    "warm-strip": "strip",
    "leaking-group": "",
}


@pytest.mark.parametrize("fault", FAULTS)
def test_a_fault_changes_one_thing(bench_pack: BenchPack, fault: str) -> None:
    sound = as_designed(bench_pack)
    bad = with_fault(bench_pack, sound, fault, np.random.default_rng(1))
    changed = [
        name
        for name in sound.__struct_fields__
        if not np.array_equal(getattr(sound, name), getattr(bad, name))
    ]
    assert changed == ([CHANGED[fault]] if CHANGED[fault] else [])


def test_a_fault_that_nobody_knows_is_refused(bench_pack: BenchPack) -> None:
    with pytest.raises(FaultError, match="weak-group"):
        with_fault(bench_pack, as_designed(bench_pack), "gremlins", np.random.default_rng(1))
