"""Who stands at the simulated bench."""

import pytest

from lumvak.bench.instruments import InstrumentError
from lumvak.bench.simulated.helper import SimulatedHelper, direct_lines
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.core.proving.bench_pack import BenchPack


def test_it_moves_probes_plugs_and_lets_time_pass(bench_pack: BenchPack) -> None:
    pack = SimulatedPack(bench_pack, 1)
    lines = direct_lines(pack, 1)
    helper = SimulatedHelper(lines["meter"])
    helper.move("group:2")
    assert lines["meter"].query("ROUT:PROB?") == "group:2"
    helper.act("plug charger")
    assert helper.lamp() and pack.bms.awake
    helper.wait(120.0)
    assert helper.now() == 120.0 == pytest.approx(pack.time_s)
    assert helper.moment().endswith("08:02:00")
    helper.act("pull charger")
    assert not helper.lamp()
    with pytest.raises(InstrumentError):
        lines["meter"].query("VOLT?")
