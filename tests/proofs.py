"""A pack to prove, a simulated one of it with its instruments, and readings made by hand."""

from __future__ import annotations

from collections.abc import Sequence

from lumvak.bench.at_bench import Instruments
from lumvak.bench.proving_run import TestRun, instruments_on, run_tests
from lumvak.bench.simulated.helper import SimulatedHelper, direct_lines
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.core.document.proving import ProofReading, Proving, TestName
from lumvak.core.proving.bench_pack import BenchPack

# Which figure a fault is found by.
MEANT = {
    "high-resistance-joint": "drops.worst",
    "weak-group": "full-discharge.ah",
    "flat-group": "groups.spread_v",
    "bms-trips-low": "over-current.trip_a",
    "worn-connector": "drops.connector_mohm",
    "short-stopping-charger": "charger-stop.stop_v",
    "warm-strip": "staircase.strip_k",
    "leaking-group": "self-discharge.mv_day",
}


class AtDirectBench:
    """A simulated pack and its instruments in the same process; readings as they are kept."""

    def __init__(self, pack: BenchPack, seed: int = 1, faults: Sequence[str] = ()) -> None:
        self.pack = pack
        self.simulated = SimulatedPack(pack, seed, faults)
        lines = direct_lines(self.simulated, seed)
        self.instruments: Instruments = instruments_on(lines)
        self.helper = SimulatedHelper(lines["meter"])
        self.readings: list[ProofReading] = []

    def run(self, *tests: TestName) -> list[TestRun]:
        return list(
            run_tests(self.pack, self.instruments, self.helper, tests, self.readings.append)
        )

    @property
    def proving(self) -> Proving:
        return Proving(readings=tuple(self.readings))


def reading(
    test: TestName, value: float, place: str = "pack", what: str = "volts", **rest: object
) -> ProofReading:
    return ProofReading(test=test, value=value, place=place, what=what, **rest)  # type: ignore[arg-type]
