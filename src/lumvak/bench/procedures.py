"""The tests as they are run with instruments; each keeps what it reads (methods 42)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from lumvak.bench.at_bench import OFF_A, AtBench, Stopped
from lumvak.bench.instruments import Taken
from lumvak.core.document.proving import TestName
from lumvak.core.proving.bench_pack import PARTS
from lumvak.core.proving.expected import TRIP_STEP
from lumvak.core.proving.guide import WARM_PLACES
from lumvak.core.proving.programme import (
    CREEP_SHARE,
    EASES_S,
    LATE_SHARE,
    LEVELS,
    OFF_S,
    OVER_V,
    TRIP_TO,
    hold_s,
    trip_hold_s,
)

# How often is read while something goes on, and near an end, in s.
OFTEN_S, NEAR_S, READ_TIMES = 60.0, 10.0, 120
NEAR_V, NEAR_STEPS = 0.15, 4.0
# What creeps to an end is read so many times in a whole discharge at that current.
LATE_TIMES = 12_000
# What falls to a level is read again after this share of its way; it falls by so much at least.
WAY_SHARE, LEAST_FALL_V = 0.2, 0.001
# So many groups are followed to the end of a discharge.
LOWEST = 3
# A BMS that should end a discharge is given so many V under its level.
OPENS_BY_V = 0.1
# Nothing goes on for longer than this, in s.
LONGEST_S = 40.0 * 3600.0
# Cells are as warm as the air once they fall by no more than this from reading to reading, whatever
# two thermometers differ by, or after so long.
COOL_K, COOL_S, COOLED_BY_S = 0.12, 3600.0, 24.0 * 3600.0
SETTLED_S, SETTLES_S, WEEK_S = 20.0, 6.0 * 3600.0, 7.0 * 86_400.0
# A charge is near its end once its current falls under this share of what it began with.
FALLS = 0.95
# A tenth of the charge is taken out before a pack that may be over full is filled.
TENTH = 0.1
# The over-current test begins here, as a share of the level.
TRIP_FROM = 0.6
# A BMS that opened is given so much before it is tried again, in s of charge.
REVIVE_S = 300.0


def insulation(bench: AtBench) -> None:
    """Pack to case."""
    bench.volts("case")


def asleep(bench: AtBench) -> None:
    """The output before the BMS is woken; then it is."""
    bench.volts("terminals")
    bench.by.act("wake")
    bench.volts("terminals")


def groups(bench: AtBench) -> None:
    """Every group by the meter."""
    for group in range(1, bench.pack.series + 1):
        bench.volts(f"group:{group}")


def total(bench: AtBench) -> None:
    """Every group, and the whole."""
    groups(bench)
    bench.volts("pack")


def self_discharge(bench: AtBench) -> None:
    """A tenth under full and settled, every group, and again after a week."""
    _charge_full(bench)
    _take_a_tenth(bench)
    bench.by.wait(SETTLES_S)
    bench.begin(bench.test, bench.attempt)
    groups(bench)
    bench.by.wait(WEEK_S)
    groups(bench)


def full_charge(bench: AtBench) -> None:
    """Constant current, then constant voltage, until little flows; the groups at the end."""
    _charge_full(bench)


def _charge_full(bench: AtBench) -> None:
    pack = bench.pack
    with bench.feeding(pack.full_v, pack.charge_a) as supply:
        begun = bench.by.now()
        while bench.by.now() - begun < LONGEST_S:
            bench.by.wait(OFTEN_S)
            flow = bench.keep("amps", "pack", supply.amps(), None, supply.name)
            if flow < min(2.0 * pack.tail_a, FALLS * pack.charge_a):
                bench.groups(flow, charging=True)
            if flow < pack.tail_a:
                break


def _take_a_tenth(bench: AtBench) -> None:
    pack = bench.pack
    with bench.drawing(pack.load_a):
        bench.by.wait(TENTH * pack.group_ah / pack.load_a * 3600.0)


def _cool_down(bench: AtBench) -> None:
    """Wait until the cells are as warm as the air."""
    begun, over_was = bench.by.now(), math.inf
    while bench.by.now() - begun < COOLED_BY_S:
        bench.by.wait(COOL_S)
        cells, air = bench.celsius("cells"), bench.celsius("air")
        if cells is None or air is None or abs(over_was - (cells - air)) < COOL_K:
            return
        over_was = cells - air


def _full_and_cool(bench: AtBench, cool: Callable[[], None]) -> None:
    """Full and as warm as the air, where ``cool`` reads; then what was bled is filled up again.

    Read after that the leads would be warm from it.
    """
    _charge_full(bench)
    _cool_down(bench)
    cool()
    board = bench.pack.board
    if board is not None and board.balance_always:
        _charge_full(bench)


def staircase(bench: AtBench) -> None:
    """From full and cool up the levels of the load, each held until warm, then off for a moment.

    After the last level what comes back is read twice more.
    """
    pack, held = bench.pack, hold_s(bench.pack)
    _full_and_cool(bench, lambda: _temperatures(bench, 0.0))
    bench.begin(bench.test, bench.attempt)
    for share in LEVELS:
        with bench.drawing(share * pack.load_a) as load:
            bench.by.wait(held)
            flow = bench.keep("amps", "pack", load.amps(), None, load.name)
            _must_flow(flow)
            bench.volts("pack", flow)
            bench.volts("terminals", flow)
            _temperatures(bench, flow)
        bench.by.wait(OFF_S)
        bench.volts("pack", 0.0)
    for _ in range(2):
        bench.by.wait(EASES_S)
        bench.volts("pack", 0.0)


def _must_flow(amps: float) -> None:
    """Raise Stopped where a load that is on draws nothing."""
    if amps < OFF_A:
        raise Stopped(
            "Nothing flows though the load is on: see whether the BMS is awake and the fuse whole"
        )


# Where thermometers are read: everywhere, or at two places.
EVERYWHERE = tuple(place for place, _ in WARM_PLACES)
CELLS_AND_AIR = ("cells", "air")


def _temperatures(bench: AtBench, flow: float, places: Sequence[str] = EVERYWHERE) -> None:
    for place in places:
        bench.celsius(place, flow)


def drops(bench: AtBench) -> None:
    """What falls across each part of the path and each series connection under load."""
    pack = bench.pack
    with bench.drawing(pack.load_a) as load:
        bench.by.wait(SETTLED_S)
        _must_flow(load.amps().value)
        for place, ohm in zip(PARTS, pack.parts_ohm, strict=True):
            if place != "leads" and ohm > 0.0:
                bench.volts(place, load.amps().value)
        for joint in range(1, pack.series):
            bench.volts(f"joint:{joint}", load.amps().value)


def over_current(bench: AtBench) -> None:
    """Raise the load by small steps until the BMS opens."""
    board = bench.pack.board
    if board is None:
        return
    level = board.stages[0]
    share = TRIP_FROM
    while share <= TRIP_TO:
        asked = share * level.current_a
        with bench.drawing(asked) as load:
            bench.by.wait(trip_hold_s(level.delay_s))
            flow = load.amps()
            if flow.value < OFF_A:
                bench.keep("amps", "bms", Taken(0.0, flow.off), asked, load.name)
                break
            bench.keep("amps", "bms", flow, asked, load.name)
        share += TRIP_STEP
    bench.by.wait(OFTEN_S)
    bench.by.act("wake")


def charger_stop(bench: AtBench) -> None:
    """The charger of the pack, from where it stands until it stops."""
    bench.by.act("plug charger")
    begun = bench.by.now()
    while bench.by.now() - begun < LONGEST_S and bench.by.lamp():
        bench.by.wait(OFTEN_S)
        if bench.by.lamp():
            bench.volts("terminals", as_place="charger")
    bench.by.act("pull charger")


def over_voltage(bench: AtBench) -> None:
    """Creep up with little current until the BMS opens the charge; which group was first."""
    pack, board = bench.pack, bench.pack.board
    if board is None:
        return
    creep = CREEP_SHARE * pack.group_ah
    with bench.feeding(pack.series * (board.over_voltage_v + OVER_V), creep) as supply:
        begun = bench.by.now()
        while bench.by.now() - begun < LONGEST_S:
            bench.by.wait(OFTEN_S)
            flow = supply.amps()
            if flow.value < OFF_A:
                bench.keep("amps", "bms", Taken(0.0, flow.off), None, supply.name)
                return
            bench.groups(flow.value, charging=True)


def full_discharge(bench: AtBench) -> None:
    """From full and cool at the continuous current until a group or the whole is empty."""
    pack = bench.pack
    _take_a_tenth(bench)
    _full_and_cool(bench, lambda: _temperatures(bench, 0.0, CELLS_AND_AIR))
    bench.begin(bench.test, bench.attempt)
    ah = wh = 0.0
    last_v = pack.floor_v - OPENS_BY_V * pack.opens
    often = min(OFTEN_S, pack.group_ah / pack.discharge_a * 3600.0 / READ_TIMES)
    with bench.drawing(pack.discharge_a) as load:
        bench.by.wait(0.1)
        (was, flow_off), span = load.amps(), often
        _must_flow(was)
        volts_was = bench.volts("terminals", was)
        left_was = (min(bench.groups(was)) - last_v, (volts_was - pack.stop_v) / pack.series)
        while bench.at_s < LONGEST_S:
            before = bench.by.now()
            bench.by.wait(span)
            hours = (bench.by.now() - before) / 3600.0
            flow = load.amps()
            if flow.value < OFF_A:
                # It opened at some moment since: on the mean half of the time had gone.
                ah += 0.5 * was * hours
                wh += 0.5 * was * hours * volts_was
                break
            volts = bench.volts("terminals", flow.value)
            lowest = min(bench.groups(flow.value))
            left = (lowest - last_v, (volts - pack.stop_v) / pack.series)
            # It is followed to where the first of its limits is met, which lies between readings.
            met = [then / (then - now) for then, now in zip(left_was, left, strict=True) if now < 0]
            hours *= min([1.0, *met])
            ah += 0.5 * (was + flow.value) * hours
            wh += 0.25 * (was + flow.value) * (volts_was + volts) * hours
            was, volts_was = flow.value, volts
            if met:
                break
            near = any(
                now < max(NEAR_V, NEAR_STEPS * (then - now))
                for then, now in zip(left_was, left, strict=True)
            )
            span, left_was = (often / 6.0 if near or span < often else often), left
        _temperatures(bench, was, CELLS_AND_AIR)
    share = flow_off / was
    bench.keep("ah", "pack", Taken(ah, share * ah), None, load.name)
    bench.keep("wh", "pack", Taken(wh, share * wh), None, load.name)


def under_voltage(bench: AtBench) -> None:
    """On from empty with little current until the BMS opens; which group was first."""
    pack, board = bench.pack, bench.pack.board
    if board is None:
        return
    with bench.feeding(pack.full_v, pack.charge_a):
        bench.by.wait(REVIVE_S)
    bench.by.act("wake")
    late = LATE_SHARE * pack.load_a
    near = min(NEAR_S, pack.group_ah / late * 3600.0 / LATE_TIMES)
    span, lowest, left_was = NEAR_S, tuple[int, ...](), 0.0
    with bench.drawing(late) as load:
        begun = bench.by.now()
        while bench.by.now() - begun < LONGEST_S:
            bench.by.wait(span)
            flow = load.amps()
            if flow.value < OFF_A:
                bench.keep("amps", "bms", Taken(0.0, flow.off), None, load.name)
                return
            volts = bench.groups(flow.value, only=lowest)
            left = min(volts) - board.under_voltage_v
            # A share of the time after which it would be there, as it falls now.
            ahead = WAY_SHARE * span * left / max(left_was - left, LEAST_FALL_V)
            span, left_was = min(max(ahead, near), OFTEN_S), left
            if left < NEAR_V and not lowest:
                # From here on the lowest alone are read: one of them is the first.
                order = sorted(range(pack.series), key=lambda it: volts[it])
                lowest = tuple(place + 1 for place in order[:LOWEST])


# In the order in which they are run: what is needed first comes first.
PROCEDURES: dict[TestName, Callable[[AtBench], None]] = {
    "insulation": insulation,
    "asleep": asleep,
    "groups": groups,
    "total": total,
    "full-charge": full_charge,
    "staircase": staircase,
    "drops": drops,
    "over-current": over_current,
    "charger-stop": charger_stop,
    "over-voltage": over_voltage,
    "full-discharge": full_discharge,
    "under-voltage": under_voltage,
    "self-discharge": self_discharge,
}


def in_order(tests: Sequence[TestName]) -> list[TestName]:
    """Tests in the order in which they are run."""
    return [name for name in PROCEDURES if name in tests]
