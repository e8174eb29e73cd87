"""A search as in Trouble, walked on a pack that hides something."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from lumvak.bench.practise.levels import FIRST_SEED, Level
from lumvak.bench.practise.trail import READ, WAITS, Act, Done, HiddenPack
from lumvak.core.document.afterwards.trouble import ComplaintName
from lumvak.core.proving.bench_pack import BenchPack
from lumvak.core.trouble.case import TroubleCase, TroubleMeter
from lumvak.core.trouble.diagnosis import Diagnosis, diagnosed
from lumvak.core.trouble.proposing import Proposed
from lumvak.core.trouble.readings import SWEEPS, TroubleReading, Value

# Where a group of an unknown pack likely rests, and how far off, as shares from empty to full.
RESTS, RESTS_OFF = 0.6, 0.25
# What is read here is no better than so.
METER = TroubleMeter(share=0.001, digits=3)
# A BMS that shows less than this shows nothing.
SHOWS_V = 0.3
MOST_READINGS = 12
NO_NUMBERS = ("air", "cells", "strip", "lead")
# A charger that is plugged in stays so, though it may have turned off.
PLUGS = {"charger": True, "charger off": False, "charge": False}


def case_of_bench(pack: BenchPack) -> TroubleCase:
    """What a search knows of a pack before anything was read: its design."""
    full, empty = pack.full_v / pack.series, pack.floor_v
    board = pack.board
    return TroubleCase(
        pack.series,
        full_v=full,
        empty_v=empty,
        rest_v=empty + RESTS * (full - empty),
        rest_off_v=RESTS_OFF * (full - empty),
        group_ohm=pack.behaviour.steady_ohm / pack.parallel,
        joint_ohm=max(float(pack.joint_ohm.mean()), 1e-6),
        part_ohm=max(float(pack.parts_ohm.mean()), 1e-6),
        load_a=pack.load_a,
        trip_a=board.stages[0].current_a if board is not None else 10.0 * pack.load_a,
        charge_a=pack.charge_a,
        shows=board is not None,
        meter=METER,
    )


def complaint_of(level: Level, seed: int) -> ComplaintName:
    """What is complained of; other packs of a level may hide what its owner does not speak of."""
    return level.complaint if seed == FIRST_SEED else "none"


def search_readings(pack: BenchPack, done: Sequence[Done]) -> list[TroubleReading]:
    """What was read as readings of a search; all groups in a row are one reading."""
    made: list[TroubleReading] = []
    waited, plugged = 0.0, False
    row: list[float] = []
    for item in done:
        if item.act.do != READ:
            waited = WAITS.get(item.act.do, 0.0)
            plugged = PLUGS.get(item.act.do, plugged)
            row = []
            continue
        kind, _, number = item.act.place.partition(":")
        if kind in NO_NUMBERS or item.value is None:
            continue
        state, amount = _state_of(pack, item, waited, plugged)
        value: Value = float(item.value)
        if kind == "shown" and item.value < SHOWS_V:
            value = "nothing"
        made.append(TroubleReading(item.act.place, state, amount, value))
        at = int(number or 0)
        fits = kind in ("group", "shown") and value != "nothing" and at == len(row) + 1
        same = at == 1 or (len(made) > 1 and made[-2].kind == kind and made[-2].state == state)
        row = [*row, float(item.value)] if fits and same else []
        if len(row) == pack.series:
            place = "groups" if kind == "group" else kind
            made = [*made[: -pack.series], TroubleReading(place, state, amount, tuple(row))]
            row = []
    return made


def _state_of(pack: BenchPack, item: Done, waited: float, plugged: bool) -> tuple[str, float]:
    if item.act.place == "charger":
        # Its plug alone, out of the pack.
        return "rest", 0.0
    if "load on" in item.state:
        return "load", pack.load_a
    if plugged:
        return "charge", pack.charge_a
    if waited:
        return "after", waited
    return ("asleep" if item.state.startswith("asleep") else "rest"), 0.0


def searched(level: Level, seed: int, pack: BenchPack, done: Sequence[Done]) -> Diagnosis:
    """The causes as a search ranks them by what was read so far."""
    readings = search_readings(pack, done)
    return diagnosed(case_of_bench(pack), complaint_of(level, seed), readings)


def next_here(found: Diagnosis, pack: BenchPack) -> Proposed | None:
    """The next reading of a search that can be taken of a pack that hides something."""
    if found.enough:
        return None
    able = {
        "rest": (0.0,),
        "load": (pack.load_a,),
        "charge": (pack.charge_a,),
        "after": tuple(WAITS.values()),
    }
    fits = (
        it
        for it in found.nexts
        if not it.in_ohm
        and not it.place.startswith("tap")
        and (it.place, it.state) != ("charger", "charge")
        and any(abs(it.amount - amount) < 1e-6 for amount in able.get(it.state, ()))
    )
    return next(fits, None)


def acts_of(wanted: Proposed, done: Sequence[Done], state: str, series: int) -> Iterator[Act]:
    """What is to be done for a reading with a pack in a state, and the reading itself."""
    load, charger = "load on" in state, False
    for item in done:
        charger = PLUGS.get(item.act.do, charger)
    if load and wanted.state != "load":
        yield Act("load off")
    if charger and wanted.state != "charge":
        yield Act("charger off")
    if state.startswith("asleep"):
        yield Act("wake")
    if wanted.state == "load" and not load:
        yield Act("load")
    elif wanted.state == "charge" and not charger:
        yield Act("charger")
    elif wanted.state == "after":
        yield Act(next(name for name, seconds in WAITS.items() if seconds == wanted.amount))
    if wanted.place in SWEEPS:
        kind = wanted.place.removesuffix("s")
        yield from (Act(READ, f"{kind}:{group}") for group in range(1, series + 1))
    else:
        yield Act(READ, wanted.place)


# What each fault is in a search; it has no name for the others.
CAUSE_OF = {
    "high-resistance-joint": "joint-resistive",
    "weak-group": "group-weak",
    "flat-group": "group-flat",
    "worn-connector": "connector-worn",
    "short-stopping-charger": "charger-early",
    "leaking-group": "group-leaking",
    "open-fuse": "fuse-open",
    "broken-joint": "joint-broken",
    "swapped-leads": "tap-swapped",
    "open-lead": "tap-open",
    "misread-group": "bms-misreads",
    "lost-cell": "group-lost-cell",
    "dead-charger": "charger-dead",
}


def walk(level: Level, seed: int, hidden: HiddenPack) -> tuple[Diagnosis, list[Done]]:
    """Search a pack that hides something to the end; what was found, and all that was done."""
    done: list[Done] = []
    found = searched(level, seed, hidden.pack, done)
    for _ in range(MOST_READINGS):
        wanted = next_here(found, hidden.pack)
        if wanted is None:
            break
        done += [hidden.do(act) for act in acts_of(wanted, done, hidden.state, hidden.pack.series)]
        found = searched(level, seed, hidden.pack, done)
    return found, done
