"""Instruments over VISA and beside it: what they refuse, and what they say that is no number."""

from collections.abc import Iterator

import pytest

from lumvak.bench.instruments import (
    ElectronicLoad,
    InstrumentError,
    Multimeter,
    Supply,
    Thermometer,
    VisaLine,
)
from lumvak.bench.simulated.background import BackgroundBench
from lumvak.bench.simulated.pack import SimulatedPack
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.proving.bench_pack import BenchPack


@pytest.fixture(scope="module")
def bench(bench_pack: BenchPack) -> Iterator[BackgroundBench]:
    with BackgroundBench(SimulatedPack(bench_pack, 1), 1) as made:
        yield made


class Says:
    """A line whose instrument says what it is told to."""

    def __init__(self, **answers: str) -> None:
        self.answers, self.heard = answers, list[str]()

    def write(self, text: str) -> None:
        self.heard.append(text)

    def query(self, text: str) -> str:
        self.heard.append(text)
        return self.answers.get(text.split(":", maxsplit=1)[0].strip("*?"), '0,"No error"')

    def close(self) -> None:
        self.heard.append("closed")


def test_over_a_socket(bench: BackgroundBench) -> None:
    line = VisaLine(bench.resources["meter"])
    meter = Multimeter(line)
    assert "simulated meter" in meter.name
    read = meter.volts()
    assert meter.as_set == f"{meter.name}, 100 V"
    assert 40.0 < read.value < 60.0 and read.off == pytest.approx(0.0003 * read.value + 0.001)
    line.close()
    with pytest.raises(InstrumentError, match="does not answer"):
        Multimeter(VisaLine("TCPIP0::127.0.0.1::1::SOCKET", timeout_ms=500))


def test_a_meter_that_tells_no_range_is_asked_once(bench_pack: BenchPack) -> None:
    line = Says(IDN="meter", MEASure="3.7", SENSe="what?")
    meter = Multimeter(line)
    assert line.heard[-1] == "*CLS"
    assert meter.volts().value == 3.7 and meter.as_set == "meter"
    assert sum(it.startswith("SENSe") for it in line.heard) == 1


def test_a_supply_is_protected_before_it_is_turned_on(bench: BackgroundBench) -> None:
    line = VisaLine(bench.resources["supply"])
    supply = Supply(line)
    supply.protect(70.0)
    with pytest.raises(InstrumentError, match="refuses"):
        supply.set(volts=80.0)
    supply.set(volts=55.0, amps=1.0)
    supply.turn(True)
    assert supply.is_on
    supply.turn(False)
    assert not supply.is_on
    # The pack itself is over a protection so low: it turns off.
    supply.protect(20.0)
    supply.turn(True)
    assert not supply.is_on
    line.close()


def test_what_is_no_number_or_over_range_is_said() -> None:
    with pytest.raises(InstrumentError, match="says “HELLO”"):
        Multimeter(Says(IDN="odd", MEASure="HELLO")).volts()
    with pytest.raises(InstrumentError, match="over its range"):
        Multimeter(Says(IDN="odd", MEASure="9.9E37")).volts()
    assert Thermometer(Says(IDN="t", MEASure="21.5")).celsius(3).value == 21.5


def test_a_table_of_its_own_says_it_otherwise(catalogue: Catalogue) -> None:
    line = Says(IDN="Sump,500,7", MEASure="2.0")
    load = ElectronicLoad(line, catalogue.instruments.values())
    load.set(amps=2.0)
    load.turn(True)
    assert "SOURce:CURRent 2.0000" in line.heard and "LOAD ON" in line.heard
    assert load.amps().off == pytest.approx(0.001 * 2.0 + 0.003)
    usual = Says(IDN="another")
    ElectronicLoad(usual, catalogue.instruments.values()).turn(True)
    assert "INPut ON" in usual.heard
