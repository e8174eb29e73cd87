"""The tests as they are run: each finds the fault that it is meant for, and stops where it must."""

from collections.abc import Callable
from itertools import pairwise

import pytest
from msgspec.structs import replace

from lumvak.bench import procedures
from lumvak.bench.procedures import PROCEDURES, in_order
from lumvak.bench.simulated.faults import FAULTS
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.proving.expected import Expected
from lumvak.core.proving.measured import measured
from lumvak.core.proving.programme import LEVELS
from lumvak.core.proving.proof import TESTS, Prepared
from tests.proofs import MEANT, AtDirectBench


@pytest.fixture
def expected(ready: Prepared) -> dict[str, Expected]:
    return dict(ready.expected)


@pytest.mark.parametrize("fault", MEANT)
def test_a_fault_is_found_by_its_test_and_a_sound_pack_passes(
    bench_pack: BenchPack, expected: dict[str, Expected], fault: str
) -> None:
    key = MEANT[fault]
    verdicts = []
    for faults in ((), (fault,)):
        bench = AtDirectBench(bench_pack, 6, faults)
        (run,) = bench.run(key.partition(".")[0])  # type: ignore[arg-type]
        assert run.stopped == run.still_on == ""
        verdicts.append(expected[key].verdict(measured(bench.proving)[key].value))
        assert not bench.simulated.load.on and not bench.simulated.supply.on
    assert verdicts == ["inside", "outside"]


def test_there_is_a_procedure_for_every_test_and_an_order() -> None:
    assert set(PROCEDURES) == set(TESTS) - {"surge"}
    assert in_order(["under-voltage", "groups", "full-charge"]) == [
        "groups",
        "full-charge",
        "under-voltage",
    ]


def test_a_full_discharge_sums_what_flowed(bench_pack: BenchPack) -> None:
    bench = AtDirectBench(bench_pack, 9)
    bench.run("full-discharge")
    flows = [it for it in bench.readings if it.what == "volts" and it.place == "terminals"]
    ah = bench.readings[-2]
    by_hand = sum(
        0.5 * ((one.amps or 0.0) + (other.amps or 0.0)) * ((other.at_s or 0) - (one.at_s or 0))
        for one, other in pairwise(flows)
    )
    assert ah.what == "ah" and ah.value == pytest.approx(by_hand / 3600.0, rel=0.02)


@pytest.mark.parametrize("fault", [it for it in FAULTS if it not in MEANT])
def test_a_fault_that_no_test_is_meant_for_ends_no_plan(bench_pack: BenchPack, fault: str) -> None:
    """Each test ends by itself or with a word of why, and all is off after it."""
    bench = AtDirectBench(bench_pack, 2, (fault,))
    runs = bench.run(*PROCEDURES)
    assert [run.test for run in runs] == in_order(PROCEDURES)
    assert not any(run.still_on for run in runs)
    stopped = {run.test for run in runs if run.stopped}
    if fault in ("open-fuse", "broken-joint"):
        assert {"staircase", "drops", "full-discharge"} <= stopped
    read = measured(bench.proving)
    assert ("full-discharge.ah" in read) != ("full-discharge" in stopped)


def test_what_is_read_while_cool_is_read_before_what_was_bled_is_filled_up(
    bench_pack: BenchPack, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Strips and leads are warm from that."""
    assert bench_pack.board is not None
    bleeds = replace(bench_pack.board, balance_always=True, balance_a=0.1)
    bench = AtDirectBench(replace(bench_pack, board=bleeds), 4)
    order = []
    for name in ("_charge_full", "_cool_down", "_temperatures"):
        real = getattr(procedures, name)

        def told(*given: object, name: str = name, real: Callable[..., None] = real) -> None:
            order.append(name)
            real(*given)

        monkeypatch.setattr(procedures, name, told)
    bench.run("staircase")
    assert order[:4] == ["_charge_full", "_cool_down", "_temperatures", "_charge_full"]
    assert order[4:] == ["_temperatures"] * len(LEVELS)
