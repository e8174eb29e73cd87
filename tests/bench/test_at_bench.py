"""A test as it runs: readings are kept at once, limits stop it, and outputs go off."""

import pytest

from lumvak.bench.at_bench import AtBench, Instruments, Stopped
from lumvak.bench.instruments import InstrumentError
from lumvak.core.proving.bench_pack import BenchPack
from tests.proofs import AtDirectBench


def at(bench: AtDirectBench, instruments: Instruments | None = None) -> AtBench:
    return AtBench(
        bench.pack, instruments or bench.instruments, bench.helper, bench.readings.append
    )


def test_a_reading_is_kept_the_moment_it_is_taken(bench_pack: BenchPack) -> None:
    direct = AtDirectBench(bench_pack)
    bench = at(direct)
    bench.begin("groups", 3)
    volts = bench.volts("group:1")
    kept = direct.readings[-1]
    assert (kept.test, kept.attempt, kept.value) == ("groups", 3, volts)
    assert kept.taken.startswith("20") and "meter" in kept.by and kept.off is not None


def test_load_and_supply_are_off_after_whatever_happens(bench_pack: BenchPack) -> None:
    direct = AtDirectBench(bench_pack)
    bench = at(direct)
    with pytest.raises(ZeroDivisionError), bench.drawing(5.0):
        assert direct.simulated.load.on
        raise ZeroDivisionError
    assert not direct.simulated.load.on
    with pytest.raises(KeyError), bench.feeding(50.0, 1.0):
        assert direct.simulated.supply.on and direct.simulated.supply.most_v == pytest.approx(51.5)
        raise KeyError
    assert not direct.simulated.supply.on


def test_a_group_near_harm_stops_a_test(bench_pack: BenchPack) -> None:
    direct = AtDirectBench(bench_pack, faults=("flat-group",))
    direct.simulated.press()
    charge = direct.simulated.now.groups.charge.copy()
    charge[0, 2] = -0.02
    direct.simulated.now = direct.simulated.model.at_charge(charge)
    with pytest.raises(Stopped, match="A group is at"):
        at(direct).groups(10.0)
    assert len(direct.readings) == bench_pack.series


def test_without_an_instrument_a_test_says_so(bench_pack: BenchPack) -> None:
    bench = at(AtDirectBench(bench_pack), Instruments())
    for part in (bench.meter, bench.load, bench.supply):
        with pytest.raises(Stopped, match="wants a"):
            part()
    assert bench.celsius("cells") is None


def test_what_is_not_known_to_be_off_is_said(bench_pack: BenchPack) -> None:
    direct = AtDirectBench(bench_pack)
    assert direct.instruments.off() == ""

    def dead(*_: object) -> None:
        raise InstrumentError("no answer")

    load = direct.instruments.load
    assert load is not None
    load.turn = dead  # type: ignore[method-assign]
    assert "load" in str(direct.instruments.off().values)  # type: ignore[union-attr]
