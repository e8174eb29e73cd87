"""A pack that hides something, what is done with it, and what each reading told."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.bench.practise.levels import LEVELS, Level
from lumvak.bench.simulated.faults import FAULTS, PLACES, Hidden, places_of, told_of
from lumvak.bench.simulated.pack import SetSource, SimulatedPack
from lumvak.core.proving.bench_pack import BenchPack

Array = NDArray[np.float64]
# What can be done with a pack, in words.
ACTS = {
    "wake": "wake the BMS",
    "load": "load on",
    "load off": "load off",
    "pull": "pull hard for a moment",
    "draw": "draw a tenth of the charge",
    "charger": "charger on",
    "charger off": "charger off",
    "charge": "charge until it stops",
    "wait": "wait an hour",
    "wait a day": "wait a day",
    "wait a week": "wait a week",
    "bridge": "bridge the BMS with a wire",
}
READ = "read"
# The load is on for so long before anything is read; a hard pull is such a share of what opens it.
HELD_S, PULLED = 60.0, 0.85
HOUR_S, DAY_S, WEEK_S, LONGEST_CHARGE_S = 3600.0, 86_400.0, 604_800.0, 43_200.0
WAITS = {"wait": HOUR_S, "wait a day": DAY_S, "wait a week": WEEK_S}
# What a meter is off by: of volts, and of volts across a part, with what is added; and degrees.
SHARE, VOLT, DROP, KELVIN = 0.0005, 0.002, 0.0002, 0.3
# Each hypothesis is drawn so often, and a reading that fits none tells no more than this.
DRAWS, STRAYS, STRAY_TIMES = 4, 0.02, 8.0
# A fault whose weight is e to this power of the likeliest is followed no longer.
LOST = -14.0
SEED = 7_000
TENTH = 0.1
# A reading of so many bits told something, one of fewer nothing.
TOLD_BITS, NOTHING_BITS = 0.5, 0.1


class Act(Struct, frozen=True):
    """Something that was done: an act of ACTS, or READ at a place."""

    do: str
    place: str = ""


class Done(Struct, frozen=True):
    """What was done, in which state, what was read of it, and why it was unsafe, if it was."""

    act: Act
    state: str
    value: float | None = None
    unit: str = ""
    unsafe: str = ""


def places(series: int) -> dict[str, list[str]]:
    """Where the probe can go, by the kind of place."""
    return {
        "whole": ["pack", "terminals", "charger"],
        "across": ["fuse", "bms", "connector"],
        "groups": [f"group:{group}" for group in range(1, series + 1)],
        "series connections": [f"joint:{joint}" for joint in range(1, series)],
        "shown by the BMS": [f"shown:{group}" for group in range(1, series + 1)],
        "warmth": ["air", "cells", "strip", "lead"],
    }


class HiddenPack:
    """A simulated pack in the hands of somebody who looks for what is wrong with it."""

    def __init__(self, pack: BenchPack, seed: int, hidden: Sequence[Hidden]) -> None:
        self.pack = pack
        self.simulated = SimulatedPack(pack, seed, hidden)
        self.noise = np.random.default_rng(SEED + seed)
        self.looked: set[str] = set()

    @property
    def state(self) -> str:
        """What is on, in words."""
        pack = self.simulated
        awake = pack.bms.awake or pack.board is None
        words = ["awake" if awake else "asleep"]
        words += ["load on"] * pack.load.on + ["charger on"] * pack.charger.on
        return ", ".join(words)

    def do(self, act: Act) -> Done:
        """Do something; what a meter shows has its error."""
        state, unsafe = self.state, self._unsafe(act)
        if act.do == READ:
            value, unit = self._read(act.place)
            self.looked.add(act.place.partition(":")[0])
            return Done(act, state, value, unit)
        shown = self._act(act.do)
        return Done(act, state, shown, "V" if shown is not None else "", unsafe)

    def _unsafe(self, act: Act) -> str:
        if act.do == "bridge":
            return "with the BMS bridged nothing opens: neither for a flat group nor for a short"
        flows = act.do in ("load", "pull", "draw", "charger", "charge")
        if flows and not self.looked & {"group", "shown"}:
            return "current before any group was read: one that is flat is driven under empty"
        if act.do in ("wait a day", "wait a week") and (
            self.simulated.load.on or self.simulated.charger.on
        ):
            return "left alone with something on"
        return ""

    def _read(self, place: str) -> tuple[float, str]:
        pack, (name, _, number) = self.simulated, place.partition(":")
        if name in ("air", "cells", "strip", "lead"):
            return pack.celsius_at(name) + KELVIN * self._normal(), "°C"
        if name == "shown":
            awake = pack.bms.awake or pack.board is None
            return (pack.told_v(int(number)) + VOLT * self._normal() if awake else 0.0), "V"
        if name == "group":
            return self._at_plug(int(number)), "V"
        # Of the charger its plug alone, out of the pack.
        true = pack.charger_v if name == "charger" else pack.volts_at(place)
        added = DROP if name in ("fuse", "bms", "connector", "joint") else VOLT
        return true + math.hypot(SHARE * true, added) * self._normal(), "V"

    def _at_plug(self, group: int) -> float:
        """Volts between two balance leads: none where one is broken, and through those swapped."""
        pack, leads = self.simulated, {group - 1, group}
        if any(it.fault == "open-lead" and it.place + 1 in leads for it in pack.hidden):
            return VOLT * self._normal()
        volts = np.array([pack.volts_at(f"group:{it}") for it in range(1, self.pack.series + 1)])
        swapped = [it for it in pack.hidden if it.fault == "swapped-leads"]
        true = float(told_of(volts, swapped)[group - 1])
        return true + math.hypot(SHARE * true, VOLT) * self._normal()

    def _normal(self) -> float:
        return float(self.noise.standard_normal())

    def _act(self, do: str) -> float | None:
        """Do what is no reading; what stands at the output at its end, where that is looked at."""
        pack, design = self.simulated, self.pack
        if do == "wake":
            pack.press()
            pack.advance(1.0)
        elif do == "load":
            self._load(design.load_a, HELD_S)
        elif do == "pull":
            level = design.load_a if pack.board is None else pack.board.stages[0].current_a
            delay = 1.0 if pack.board is None else pack.board.stages[0].delay_s
            self._load(PULLED * level, 1.5 * delay + 1.0)
            shown = pack.volts_at("terminals")
            pack.load.on = False
            pack.advance(1.0)
            return shown + VOLT * self._normal()
        elif do == "draw":
            self._load(design.load_a, TENTH * design.group_ah / design.load_a * 3600.0)
            pack.load.on = False
            pack.advance(1.0)
        elif do == "load off":
            pack.load.on = False
            pack.advance(10.0)
        elif do == "charger":
            pack.plug_charger(True)
            pack.advance(HELD_S)
        elif do == "charger off":
            pack.plug_charger(False)
            pack.advance(10.0)
        elif do == "charge":
            pack.plug_charger(True)
            begun = pack.time_s
            while pack.charger.on and pack.time_s - begun < LONGEST_CHARGE_S:
                pack.advance(HELD_S)
            shown = pack.volts_at("terminals")
            pack.plug_charger(False)
            return shown + VOLT * self._normal()
        elif do in WAITS:
            pack.advance(WAITS[do])
        return None

    def _load(self, amps: float, seconds: float) -> None:
        self.simulated.load = SetSource(on=True, volts=self.pack.stop_v * 0.5, amps=amps)
        self.simulated.advance(seconds)


class TrailTold(Struct, frozen=True):
    """What each act told of what it was, in bits, and how sure one may be of it at the end.

    ``bits`` has one number for each act, 0 for those that show nothing; ``sure`` is the share that
    is left for what it was.
    """

    bits: tuple[float, ...]
    sure: float


def hypotheses(pack: BenchPack, level: Level) -> list[tuple[Hidden, ...]]:
    """All that may be hidden in a level's pack: each in each place, pairs where it hides pairs."""
    if level.pairs:
        return [
            (one, other)
            for faults in dict.fromkeys(it.faults for it in LEVELS if it.pairs)
            for one in _anywhere(pack, faults[0])
            for other in _anywhere(pack, faults[1])
        ]
    return [(), *((it,) for fault in FAULTS for it in _anywhere(pack, fault))]


def _anywhere(pack: BenchPack, fault: str) -> Iterator[Hidden]:
    return (Hidden(fault, place) for place in range(places_of(pack, fault)))


def told(
    pack: BenchPack, level: Level, hidden: tuple[Hidden, ...], done: Sequence[Done]
) -> TrailTold:
    """What each reading told: packs with every fault are taken through the same acts.

    A reading is likely for a fault as it lies by those of its packs; its scatter is theirs, and no
    less than is usual among all. A fault that is as good as ruled out is followed no longer, except
    for the one that it was.
    """
    every = hypotheses(pack, level)
    at = every.index(hidden)
    kinds = [tuple(it.fault for it in item) for item in every]
    logs = np.log([1.0 / kinds.count(kind) for kind in kinds])
    packs = [[HiddenPack(pack, SEED + draw, item) for draw in range(DRAWS)] for item in every]
    bits = []
    before = _share(logs, at)
    for item in done:
        alive = [place for place, log in enumerate(logs) if place == at or log - logs.max() > LOST]
        shown = [[drawn.do(item.act).value for drawn in packs[place]] for place in alive]
        if item.value is not None:
            likely = np.full(len(every), -np.inf)
            likely[alive] = _likely(item.value, np.array(shown, dtype=np.float64))
            logs = logs + likely
        after = _share(logs, at)
        bits.append(math.log2(after / before))
        before = after
    return TrailTold(tuple(bits), before)


def _likely(value: float, shown: Array) -> Array:
    """Logarithms of how likely a reading is, (n,), by what drawn packs show, (n, DRAWS)."""
    own = shown.var(axis=1, ddof=1)
    spread = np.sqrt(np.maximum(own, np.median(own))) + 1e-9
    away = (value - shown.mean(axis=1)) / spread
    near = np.exp(-0.5 * away**2)
    stray = np.exp(-0.5 * (away / STRAY_TIMES) ** 2) / STRAY_TIMES
    return np.asarray(np.log(((1.0 - STRAYS) * near + STRAYS * stray) / spread + 1e-12))


def _share(logs: Array, at: int) -> float:
    weights = np.exp(logs - logs.max())
    return max(float(weights[at] / weights.sum()), 1e-12)


def told_said(bits: float, shows: bool) -> str:
    """What a reading told, in plain words; empty for what shows nothing."""
    if not shows:
        return ""
    if bits >= TOLD_BITS:
        return "told most" if bits >= 4.0 * TOLD_BITS else "told something"
    if bits <= -TOLD_BITS:
        return "pointed elsewhere"
    return "told nothing" if bits < NOTHING_BITS else "told a little"


class Score(Struct, frozen=True):
    """How an answer stands: whether the faults are right, and where they are."""

    right: bool
    place_right: bool


def score_of(answer: tuple[Hidden, ...], hidden: tuple[Hidden, ...]) -> Score:
    """Whether an answer names what was hidden, and where."""
    right = sorted(it.fault for it in answer) == sorted(it.fault for it in hidden)
    return Score(right, right and set(answer) == set(hidden))


def hidden_said(hidden: Sequence[Hidden]) -> str:
    """What was hidden, in words."""
    if not hidden:
        return "nothing was wrong"
    return "; ".join(map(_said, hidden))


def _said(item: Hidden) -> str:
    kind, words = PLACES.get(item.fault), FAULTS[item.fault]
    if kind is None:
        return words
    if kind == "group":
        return f"{words}: group {item.place + 1}"
    if kind == "joint":
        return f"{words}: between groups {item.place + 1} and {item.place + 2}"
    lead = item.place + 1
    swapped = f"leads {lead} and {lead + 1}" if item.fault == "swapped-leads" else f"lead {lead}"
    return f"{words}: {swapped}"
