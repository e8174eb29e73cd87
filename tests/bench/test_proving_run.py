"""A plan of tests: one that fails ends alone, and attempts count on."""

from lumvak.bench.instruments import InstrumentError
from lumvak.bench.proving_run import run_tests
from lumvak.core.proving.bench_pack import BenchPack
from tests.proofs import AtDirectBench


def test_attempts_count_on_and_come_in_order(bench_pack: BenchPack) -> None:
    bench = AtDirectBench(bench_pack)
    bench.run("total", "groups")
    assert bench.readings[0].test == "groups"
    again = list(
        run_tests(
            bench_pack,
            bench.instruments,
            bench.helper,
            ["groups"],
            bench.readings.append,
            tuple(bench.readings),
        )
    )
    assert [run.test for run in again] == ["groups"] and bench.readings[-1].attempt == 2


def test_an_instrument_that_dies_ends_its_test_and_what_was_read_is_kept(
    bench_pack: BenchPack,
) -> None:
    bench = AtDirectBench(bench_pack)
    meter = bench.instruments.meter
    assert meter is not None
    real, calls = meter.volts, 0

    def failing():  # type: ignore[no-untyped-def]
        nonlocal calls
        calls += 1
        if calls == 6:
            raise InstrumentError("gone")
        return real()

    meter.volts = failing  # type: ignore[method-assign]
    runs = bench.run("groups", "insulation")
    assert [bool(run.stopped) for run in runs] == [False, True]
    assert len(bench.readings) == 5


def test_a_load_that_cannot_be_turned_off_ends_the_plan(bench_pack: BenchPack) -> None:
    bench = AtDirectBench(bench_pack)
    load = bench.instruments.load
    assert load is not None
    real = load.turn

    def stuck(on: bool) -> None:
        if not on:
            raise InstrumentError("stuck")
        real(on)

    load.turn = stuck  # type: ignore[method-assign]
    runs = bench.run("drops", "over-current")
    assert len(runs) == 1 and runs[0].still_on != ""
