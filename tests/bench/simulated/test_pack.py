"""A simulated pack in time: charge is kept, and the BMS does what its sheet says."""

import pytest
from msgspec.structs import replace

from lumvak.bench.simulated.faults import Hidden
from lumvak.bench.simulated.pack import SEEDS, SetSource, SimulatedPack
from lumvak.core.proving.bench_pack import BenchPack, built


def awake(pack: BenchPack, *faults: str, seed: int = 1) -> SimulatedPack:
    simulated = SimulatedPack(pack, seed, faults)
    simulated.press()
    return simulated


def test_it_is_one_of_the_packs_that_may_be_built(bench_pack: BenchPack) -> None:
    simulated = SimulatedPack(bench_pack, 5)
    drawn = built(bench_pack, 1, SEEDS * 5 + 1)
    assert (simulated.truth.capacity == drawn.capacity).all()
    weak = SimulatedPack(bench_pack, 5, ("weak-group",)).truth.capacity / drawn.capacity
    assert sorted(weak[0].round(6))[0] == 0.8 and (weak[0] == 1.0).sum() == bench_pack.series - 1


def test_what_is_drawn_is_missing(bench_pack: BenchPack) -> None:
    simulated = awake(bench_pack)
    before = simulated.now.groups.charge.copy()
    simulated.load.amps, simulated.load.on = 10.0, True
    simulated.advance(720.0)
    gone = (before - simulated.now.groups.charge) * bench_pack.group_ah * simulated.truth.capacity
    assert gone == pytest.approx(2.0, rel=1e-3)
    assert simulated.time_s == pytest.approx(720.0)


def test_asleep_it_gives_nothing_until_it_is_woken(bench_pack: BenchPack) -> None:
    simulated = SimulatedPack(bench_pack, 2)
    simulated.load.amps, simulated.load.on = 5.0, True
    assert simulated.through_a == 0.0 and simulated.volts_at("terminals") < 1.0
    simulated.press()
    assert simulated.through_a == 5.0 and simulated.volts_at("terminals") > 40.0


def test_it_opens_on_too_much_current_after_its_delay(bench_pack: BenchPack) -> None:
    board = bench_pack.board
    assert board is not None
    level, delay = board.trips[0]
    simulated = awake(bench_pack)
    trip = level * float(simulated.truth.trip[0])
    simulated.load.on, simulated.load.amps = True, 0.99 * trip
    simulated.advance(3.0 * delay)
    assert simulated.gives
    simulated.load.amps = 1.01 * trip
    simulated.advance(0.8 * delay)
    assert simulated.gives
    simulated.advance(0.4 * delay + 1.0)
    assert not simulated.gives and simulated.bms.why == "over-current"
    simulated.load.on = False
    simulated.press()
    assert simulated.gives


def test_it_opens_on_a_group_too_low_and_too_high(bench_pack: BenchPack) -> None:
    board = bench_pack.board
    assert board is not None
    low = awake(replace(bench_pack, stop_v=1.0))
    low.load.on, low.load.amps = True, 5.0
    low.advance(40_000.0)
    assert low.bms.why == "under-voltage" or not low.gives
    under = board.under_voltage_v + float(low.truth.under_v[0])
    assert min(low.volts_at(f"group:{it}") for it in range(1, 15)) > under - 0.05
    high = awake(bench_pack)
    high.supply.on, high.supply.volts, high.supply.amps = True, 14 * 4.4, 3.0
    high.advance(100_000.0)
    over = board.over_voltage_v + float(high.truth.over_v[0])
    assert max(high.volts_at(f"group:{it}") for it in range(1, 15)) < over + 0.01


def test_the_charger_stops_by_itself(bench_pack: BenchPack) -> None:
    simulated = awake(bench_pack)
    simulated.plug_charger(True)
    simulated.advance(60.0)
    assert simulated.through_a == pytest.approx(-bench_pack.charge_a)
    simulated.advance(40_000.0)
    assert not simulated.charger.on
    assert simulated.volts_at("pack") < bench_pack.charger_v * float(simulated.truth.charger[0])


@pytest.mark.parametrize("place", ["moon", "group:0", "group:15", "joint:14", "group:x", ""])
def test_there_is_no_such_place(bench_pack: BenchPack, place: str) -> None:
    with pytest.raises(KeyError):
        SimulatedPack(bench_pack).volts_at(place)


def test_a_supply_holds_its_volts_while_the_current_falls(bench_pack: BenchPack) -> None:
    simulated = awake(bench_pack, seed=3)
    simulated.supply.on = True
    simulated.supply.volts, simulated.supply.amps = bench_pack.full_v, bench_pack.charge_a
    flows, volts = [], []
    for _ in range(2000):
        simulated.advance(60.0)
        flows.append(-simulated.through_a)
        volts.append(simulated.volts_at("terminals"))
        if flows[-1] < bench_pack.tail_a:
            break
    late = [it for it in flows if it < 0.95 * bench_pack.charge_a]
    assert len(late) > 3 and late == sorted(late, reverse=True)
    assert volts[-len(late) :] == pytest.approx([bench_pack.full_v] * len(late), abs=0.01)
    assert simulated.charged_to.mean() == pytest.approx(simulated.model.full.mean(), abs=1e-3)


@pytest.mark.parametrize(("fault", "place"), [("open-fuse", "fuse"), ("broken-joint", "joint:2")])
def test_where_nothing_flows_a_load_shows_the_break(
    bench_pack: BenchPack, fault: str, place: str
) -> None:
    pack = SimulatedPack(bench_pack, 1, [Hidden(fault, 1)])
    pack.press()
    assert pack.volts_at("terminals") < 1.0 and pack.volts_at(place) == 0.0
    pack.load = SetSource(on=True, volts=0.0, amps=10.0)
    assert pack.through_a == 0.0 and pack.volts_at(place) > 0.8 * bench_pack.stop_v
    assert pack.volts_at("group:2") > 3.0
    # Before a fuse there are volts all the same.
    assert (pack.volts_at("pack") > 1.0) == (fault == "open-fuse")


def test_a_bms_opens_by_what_it_reads(bench_pack: BenchPack) -> None:
    pack = SimulatedPack(bench_pack, 1, [Hidden("swapped-leads", 3)])
    pack.press()
    pack.advance(60.0)
    assert pack.told_v(5) < 0.0 < pack.volts_at("group:5") and not pack.gives
    dead = SimulatedPack(bench_pack, 1, [Hidden("dead-charger")])
    dead.plug_charger(True)
    dead.advance(60.0)
    assert not dead.charger.on and dead.through_a == 0.0
