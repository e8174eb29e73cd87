"""A built pack in time, with its BMS, its charger and what is connected to it (methods 42)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from lumvak.bench.simulated.faults import LEAK, Hidden, hidden_at, told_of, with_fault
from lumvak.core.catalogue.boards import Board
from lumvak.core.proving.bench_pack import PARTS, BenchPack, built
from lumvak.core.proving.expected import AS_FOUND, MONTH_SHARE, MONTH_SPREAD
from lumvak.core.proving.groups_model import GroupsModel, Now, Seen
from lumvak.core.proving.programme import as_found

Array = NDArray[np.float64]
# Steps in s: while current flows, while a level of the BMS is passed, and at rest.
FLOWING_S, PASSING_S, RESTING_S = 20.0, 0.5, 3600.0
# Of a whole charge or discharge there are at least so many steps.
STEPS_A_CHARGE = 400
# A BMS bleeds groups that lie over this share of full volts and so much over the lowest.
BLEEDS_FROM, BLEEDS_OVER_V = 0.985, 0.02
# After an overload a BMS that recovers by itself does so after so long.
RECOVERS_S = 30.0
# A release where the sheet names none, in V.
OVER_RELEASE_V, UNDER_RELEASE_V = 0.1, 0.3
# Seeds next to each other lie so far apart.
SEEDS = 1_000_003
MONTH_S = 30.0 * 86_400.0
# What leaves nothing to flow, and what a BMS is misled by.
BREAKS = ("open-fuse", "broken-joint")
MISLEADS = ("swapped-leads", "open-lead", "misread-group")
# Amps that are none.
NO_A = 1e-3


@dataclass
class SetSource:
    """A supply, a load or a charger as it is set."""

    on: bool = False
    volts: float = 0.0
    amps: float = 0.0
    most_v: float = 1000.0
    most_a: float = 1000.0


@dataclass
class Bms:
    """What a BMS does at a moment; ``passed`` is for how long each of its limits is passed in s."""

    awake: bool = False
    charges: bool = True
    discharges: bool = True
    why: str = ""
    passed: dict[str, float] = field(default_factory=dict)
    open_s: float = 0.0


class SimulatedPack:
    """One pack with hidden true values; whoever measures sees what instruments show of it."""

    def __init__(self, pack: BenchPack, seed: int = 1, faults: Sequence[str | Hidden] = ()) -> None:
        """A pack drawn by its ``seed``; faults that are named alone are hidden in a drawn place."""
        generator = np.random.default_rng(SEEDS * seed)
        truth = built(pack, 1, SEEDS * seed + 1)
        self.hidden: list[Hidden] = []
        for fault in faults:
            item = hidden_at(pack, fault, generator) if isinstance(fault, str) else fault
            self.hidden.append(item)
            truth = with_fault(pack, truth, item)
        self._misled = any(it.fault in MISLEADS for it in self.hidden)
        self._broken = next((it for it in self.hidden if it.fault in BREAKS), None)
        self.pack, self.truth = pack, truth
        self.model = GroupsModel(pack, truth)
        self.now = self.model.at_charge(np.clip(as_found(self.model, AS_FOUND), 0.01, 1.0))
        self._shown: tuple[Now, dict[float, Seen]] = self.now, {}
        # Charges of the groups (1, S) when it was charged last.
        self.charged_to = self.model.full
        self.time_s = 0.0
        self.board: Board | None = pack.board
        self.bms = Bms(awake=self.board is None or self.board.wakes == "itself")
        self.supply, self.load, self.charger = SetSource(), SetSource(), SetSource()
        loss = np.exp(MONTH_SPREAD * generator.standard_normal(pack.series))
        for item in self.hidden:
            if item.fault == "leaking-group":
                loss[item.place] *= LEAK
        self.loss_per_s = MONTH_SHARE / MONTH_S * loss
        self.leak_v = abs(float(generator.standard_normal())) * 0.03

    # What is connected.

    @property
    def through_a(self) -> float:
        """What flows out of the pack in A; what charges it is negative."""
        drawn = self.load.amps if self.load.on and self.gives else 0.0
        if drawn and float(self._seen(drawn).output_v[0]) < self.load.volts:
            drawn = 0.0
        return drawn - self._charge_a(drawn)

    @property
    def gives(self) -> bool:
        """Whether the output is live."""
        if self._broken is not None:
            return False
        return self.board is None or (self.bms.awake and self.bms.discharges)

    @property
    def takes(self) -> bool:
        """Whether the pack may be charged."""
        if self._broken is not None:
            return False
        return self.board is None or (self.bms.awake and self.bms.charges)

    def _charge_a(self, drawn: float) -> float:
        if not self.takes:
            return 0.0
        flow = 0.0
        for source in self._sources():
            if not source.on:
                continue
            seen = self._seen(drawn - flow)
            over = source.volts - float(seen.output_v[0])
            flow += min(source.amps, max(over / self._inner_ohm(), 0.0))
        return flow

    def _sources(self) -> tuple[SetSource, SetSource]:
        return self.supply, self.charger

    def _inner_ohm(self) -> float:
        """What an ampere more changes the output by, at once."""
        none, one = self._seen(0.0), self._seen(1.0)
        return float(none.output_v[0] - one.output_v[0])

    def _seen(self, amps: float) -> Seen:
        """What it shows at a current; each reading of a moment asks for the same few."""
        if self._shown[0] is not self.now:
            self._shown = self.now, {}
        known = self._shown[1]
        if amps not in known:
            known[amps] = self.model.seen(self.now, np.array([amps]))
        return known[amps]

    @property
    def charger_v(self) -> float:
        """Volts on the plug of its charger; none where that is dead."""
        if any(it.fault == "dead-charger" for it in self.hidden):
            return 0.0
        return self.pack.charger_v * float(self.truth.charger[0])

    def plug_charger(self, on: bool) -> None:
        """Plug in the charger that belongs to the pack, or pull it."""
        volts = self.charger_v
        self.charger = SetSource(on and volts > 0.0, volts, self.pack.charge_a)
        self._woken()

    def press(self) -> None:
        """Press the button of the BMS, or do what else wakes it."""
        self.bms.awake = True
        self._recovered()

    def _woken(self) -> None:
        if self.supply.on or self.charger.on:
            self.bms.awake = True

    # Time.

    def advance(self, seconds: float) -> None:
        """Let time pass."""
        left = seconds
        while left > 1e-9:
            self._woken()
            amps = self.through_a
            span = min(left, self._longest(amps))
            if amps < -NO_A and len(fed := [it for it in self._sources() if it.on]) == 1:
                # It holds its volts all the while, which one current at the beginning would not.
                held = self.model.fed_a(self.now, fed[0].volts, fed[0].amps, span)
                amps = -float(held[0])
            self.now = self.model.after(self.now, np.array([amps]), span)
            if amps < -NO_A:
                self.charged_to = self.now.groups.charge
            self._lose(amps, span)
            self._watch(amps, span)
            self.time_s += span
            left -= span

    def _told(self, amps: float) -> Array:
        """What its BMS reads of the groups (1, S)."""
        volts = self._seen(amps).group_v
        return told_of(volts[0], self.hidden)[None, :] if self._misled else volts

    def told_v(self, group: int) -> float:
        """What its BMS reads of a group, from 1; raises KeyError for one that is not there."""
        return float(self._told(self.through_a)[0, self._place(str(group), self.pack.series)])

    def _longest(self, amps: float) -> float:
        if self.bms.passed:
            return PASSING_S
        if abs(amps) <= NO_A:
            return RESTING_S
        return min(FLOWING_S, self.pack.group_ah / abs(amps) * 3600.0 / STEPS_A_CHARGE)

    def _lose(self, amps: float, span: float) -> None:
        """What is lost by itself, and what the BMS bleeds."""
        charge = self.now.groups.charge - self.loss_per_s * span
        board = self.board
        if board is not None and board.balance_a and (amps < -NO_A or board.balance_always):
            volts = self._told(amps)
            from_v = board.balance_from_v or BLEEDS_FROM * self.pack.full_v / self.pack.series
            bleeds = (volts > from_v) & (volts > volts.min() + BLEEDS_OVER_V)
            charge = charge - bleeds * board.balance_a * span * self.model.model.charge_per_as
        self.now = replace(self.now, groups=replace(self.now.groups, charge=charge))

    def _watch(self, amps: float, span: float) -> None:
        """The charger turns off, and the BMS opens where it was passed for long enough."""
        if self.charger.on and -amps < self.pack.charger_end_a:
            self.charger.on = False
        board, bms = self.board, self.bms
        if board is None or not bms.awake:
            return
        volts = self._told(amps)
        over = board.over_voltage_v + float(self.truth.over_v[0])
        under = board.under_voltage_v + float(self.truth.under_v[0])
        closed = bms.discharges and board.protects
        limits = [
            (
                "over-voltage",
                board.over_voltage_delay_s,
                board.ends_a_charge and bms.charges and bool(volts.max() > over),
            ),
            (
                "under-voltage",
                board.under_voltage_delay_s,
                closed and bool(volts.min() < under),
            ),
            *(
                (f"over-current {place}", delay, closed and amps > level * self._trip())
                for place, (level, delay) in enumerate(board.trips)
            ),
        ]
        for name, delay, passed in limits:
            if not passed:
                bms.passed.pop(name, None)
                continue
            bms.passed[name] = bms.passed.get(name, 0.0) + span
            if bms.passed[name] >= delay - 1e-9:
                self._open(name.partition(" ")[0])
        bms.open_s += span
        self._release(board, volts)

    def _trip(self) -> float:
        return float(self.truth.trip[0])

    def _open(self, why: str) -> None:
        bms = self.bms
        bms.passed.clear()
        bms.why, bms.open_s = why, 0.0
        if why == "over-voltage":
            bms.charges = False
        else:
            bms.discharges = False

    def _release(self, board: Board, volts: Array) -> None:
        bms = self.bms
        over = board.over_voltage_release_v or board.over_voltage_v - OVER_RELEASE_V
        under = board.under_voltage_release_v or board.under_voltage_v + UNDER_RELEASE_V
        if not bms.charges and float(volts.max()) < over:
            bms.charges, bms.why = True, ""
        if bms.discharges or float(volts.min()) < under:
            return
        free = {
            "itself": bms.open_s >= RECOVERS_S,
            "load": not self.load.on,
            "charger": self.charger.on or self.supply.on,
            "button": False,
        }[board.wakes]
        if bms.why == "under-voltage" or free:
            self._recovered()

    def _recovered(self) -> None:
        self.bms.discharges, self.bms.why = True, ""

    # What probes show.

    def volts_at(self, place: str) -> float:
        """True volts at a place; raises KeyError for one that is not there."""
        amps = self.through_a
        seen = self._seen(amps)
        if place == "pack":
            broken = self._broken is not None and self._broken.fault == "broken-joint"
            return self.leak_v if broken else float(seen.pack_v[0])
        if place in ("terminals", "charger"):
            return self._output_v(amps, seen)
        if place == "case":
            return self.leak_v * 0.5
        name, colon, number = place.partition(":")
        if colon and name == "group":
            return float(seen.group_v[0, self._place(number, self.pack.series)])
        if self._broken is not None and place == self._broken_place:
            # A load pulls what lies behind it down: all of the pack stands across.
            return float(seen.pack_v[0]) if self.load.on else 0.0
        return amps * self.ohm_at(place)

    @property
    def _broken_place(self) -> str:
        item = self._broken
        if item is None:
            return ""
        return "fuse" if item.fault == "open-fuse" else f"joint:{item.place + 1}"

    def ohm_at(self, place: str) -> float:
        """True ohm of a part of the path or a joint; raises KeyError for any other place."""
        name, _, number = place.partition(":")
        if name == "joint":
            at = self._place(number, self.pack.series - 1)
            return float((self.truth.joints[0] * self.pack.joint_ohm)[at])
        if place not in PARTS:
            raise KeyError(place)
        return float(self.model.parts_ohm[0, PARTS.index(place)])

    def _output_v(self, amps: float, seen: Seen) -> float:
        if self.gives or (self.takes and abs(amps) > NO_A):
            return float(seen.output_v[0])
        sources = [it.volts for it in self._sources() if it.on]
        return max([self.leak_v, *sources])

    def _place(self, number: str, most: int) -> int:
        if not number.isdigit() or not 1 <= int(number) <= most:
            raise KeyError(number)
        return int(number) - 1

    def celsius_at(self, place: str) -> float:
        """True degC at a place; raises KeyError for one that is not there."""
        seen = self._seen(self.through_a)
        return {
            "air": self.pack.ambient_c,
            "cells": float(seen.cells_c[0]),
            "strip": float(seen.strip_c[0]),
            "lead": float(seen.leads_c[0]),
        }[place]
