"""The process that turns off where nobody is heard of any more, over real sockets."""

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator

import pytest

from lumvak.bench.instruments import ElectronicLoad, InstrumentError, Supply, VisaLine
from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.bench.watchdog import GUARDED, SILENT_S, Watchdog
from lumvak.core.proving.bench_pack import BenchPack
from tests.conftest import BARROW

SOURCE = BARROW.parents[3]


@pytest.fixture
def bench(bench_pack: BenchPack) -> Iterator[BackgroundBench]:
    with BackgroundBench(SimulatedPack(bench_pack, 1), 1) as made:
        yield made


def guarded(bench: BackgroundBench) -> dict[str, str]:
    return {role: bench.resources[role] for role in GUARDED}


def both_on(bench: BackgroundBench) -> tuple[ElectronicLoad, Supply]:
    load, supply = (
        ElectronicLoad(VisaLine(bench.resources["load"])),
        Supply(VisaLine(bench.resources["supply"])),
    )
    supply.protect(70.0)
    supply.set(55.0, 1.0)
    supply.turn(True)
    load.set(amps=1.0)
    load.turn(True)
    assert load.is_on and supply.is_on
    return load, supply


def off_within(seconds: float, load: ElectronicLoad, supply: Supply) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if not load.is_on and not supply.is_on:
            return True
        time.sleep(0.05)
    return False


def test_silence_turns_off_and_beats_keep_on(bench: BackgroundBench) -> None:
    load, supply = both_on(bench)
    with Watchdog(guarded(bench), by_itself=False) as watchdog:
        for _ in range(4):
            time.sleep(0.3 * SILENT_S)
            watchdog.beat()
        assert load.is_on and supply.is_on
        assert off_within(SILENT_S + 1.0, load, supply)


def test_sent_away_it_leaves_things_as_they_are(bench: BackgroundBench) -> None:
    load, supply = both_on(bench)
    with Watchdog(guarded(bench)):
        time.sleep(SILENT_S + 0.5)
        assert load.is_on and supply.is_on
    assert load.is_on and supply.is_on


def test_the_death_of_the_program_turns_off(bench: BackgroundBench) -> None:
    code = (
        "import sys, time, json\n"
        "from lumvak.bench.watchdog import Watchdog\n"
        "with Watchdog(json.loads(sys.argv[1])):\n"
        "    print('held', flush=True)\n"
        "    time.sleep(60)\n"
    )
    with subprocess.Popen(
        [sys.executable, "-c", code, json.dumps(guarded(bench))],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONPATH": str(SOURCE)},
    ) as program:
        assert program.stdout is not None and program.stdout.readline() == b"held\n"
        load, supply = both_on(bench)
        program.send_signal(signal.SIGKILL)
        assert off_within(3.0, load, supply)
        program.wait()


def test_without_anybody_there_it_does_not_begin() -> None:
    nobody = {"load": "TCPIP0::127.0.0.1::1::SOCKET"}
    with pytest.raises(InstrumentError, match="does not reach"), Watchdog(nobody):
        pass
    with Watchdog({}) as watchdog:
        watchdog.beat()
