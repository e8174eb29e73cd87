"""Time at the simulated bench: it stands still, or runs as fast as it was told."""

import time

from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.core.proving.bench_pack import BenchPack
from tests.bench.simulated.test_servers import asked, reached


def test_it_runs_as_fast_as_it_was_told(bench_pack: BenchPack) -> None:
    fast = SimulatedPack(bench_pack, 1)
    with BackgroundBench(fast, 1, speed=1000.0) as bench, reached(bench, "meter") as line:
        time.sleep(0.05)
        asked(line, b"*OPC?")
    assert 30.0 < fast.time_s < 5000.0
    still = SimulatedPack(bench_pack, 1)
    with BackgroundBench(still, 1) as bench, reached(bench, "meter") as line:
        asked(line, b"*OPC?")
    assert still.time_s == 0.0
