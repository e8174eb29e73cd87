"""What the simulated instruments say, against what is true of the pack."""

import pytest

from lumvak.bench.simulated.instruments import NAMES, Bench, interpreters
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.core.proving.bench_pack import BenchPack


@pytest.fixture
def bench(bench_pack: BenchPack) -> Bench:
    return Bench(SimulatedPack(bench_pack, 3), 3, lambda: 0.0)


def test_each_says_what_it_is_and_keeps_its_errors(bench: Bench) -> None:
    known = interpreters(bench)
    assert set(known) == set(NAMES)
    for name, interpreter in known.items():
        assert name in (interpreter.line("*IDN?") or "")
        assert interpreter.line("*OPC?") == "1"
        interpreter.line("FLY")
        assert (interpreter.line("SYST:ERR?") or "").startswith("-113")
        interpreter.line("FLY")
        interpreter.line("*CLS")
        assert (interpreter.line("SYSTem:ERRor?") or "").startswith("0")


def test_the_meter_reads_where_its_probes_are(bench: Bench) -> None:
    meter = interpreters(bench)["meter"]
    for place in ("pack", "group:3", "joint:1", "case"):
        meter.line(f"ROUTe:PROBe {place}")
        read = float(meter.line("MEAS:VOLT:DC?") or "nan")
        true = bench.pack.volts_at(place)
        assert read == pytest.approx(true, abs=0.006 + 0.002 * abs(true))
    meter.line("ROUT:PROB joint:2")
    ohm = float(meter.line("MEAS:RES?") or "nan")
    assert ohm == pytest.approx(bench.pack.ohm_at("joint:2"), rel=1e-3) and 0.0 < ohm < 0.1
    meter.line("ROUT:PROB pack")
    assert float(meter.line("MEASure:RESistance?") or "nan") > 9e36
    meter.line("ROUT:PROB group:99")
    assert (meter.line("SYST:ERR?") or "").startswith("-222")


def test_the_supply_has_its_own_protection(bench: Bench) -> None:
    supply = interpreters(bench)["supply"]
    supply.line("VOLT:PROT 20")
    supply.line("VOLT 30")
    assert (supply.line("SYST:ERR?") or "").startswith("-222") and bench.pack.supply.volts == 0.0
    supply.line("VOLT:PROT 70;VOLT 60;CURR 2;OUTP ON")
    assert supply.line("OUTP?") == "1" and bench.pack.supply.on
    amps = float(supply.line("MEAS:CURR?") or "nan")
    assert amps == pytest.approx(2.0, rel=0.02)
    supply.line("*RST")
    assert supply.line("OUTPut?") == "0"


def test_load_thermometer_and_bms(bench: Bench) -> None:
    known = interpreters(bench)
    assert known["bms"].line("STATus?") == "ASLEEP"
    assert float(known["bms"].line("MEAS:VOLT? (@1)") or "nan") > 9e36
    known["bms"].line("SIMulate:BUTTon")
    assert "DISCHARGE 1" in (known["bms"].line("STAT?") or "")
    known["load"].line("CURR 20;INP ON")
    known["load"].line("SIM:WAIT 600")
    assert float(known["load"].line("MEAS:CURR?") or "nan") == pytest.approx(20.0, rel=0.01)
    warm = [float(known["thermometer"].line(f"MEAS:TEMP? (@{it})") or "nan") for it in (1, 2, 3)]
    assert warm[0] < warm[1] < warm[2]
    group = float(known["bms"].line("MEAS:VOLT? (@2)") or "nan")
    assert group == pytest.approx(bench.pack.volts_at("group:2"), abs=0.015)
    assert known["thermometer"].line("MEAS:TEMP? (@9)") is None
