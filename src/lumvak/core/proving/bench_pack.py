"""The pack that is proven, as designed, and how far a built one may be from it (methods 42)."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.catalogue.boards import Board
from lumvak.core.catalogue.cells import Cell
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.run.model import ModelledPack

Array = NDArray[np.float64]
# What lies between the ends of the cells and the output, in the order of the current.
PARTS = ("fuse", "leads", "bms", "connector")
# The full charge ends under this share of the capacity, as amps, or of what the charger gives.
TAIL_SHARE, TAIL_OF_CHARGE = 0.05, 0.5
# Draws are cut off at so many standard deviations.
FURTHEST = 4.0


class Spreads(Struct, frozen=True):
    """How far a built pack is from its design: standard deviations, as shares where not said.

    ``capacity`` is that of all its cells together, ``cell`` from cell to cell, ``group`` that of
    the resistance from group to group; ``charge`` is of the charge of a group when full;
    ``over_v``, ``under_v`` and ``trip`` of the levels of a BMS; ``charger`` of a charger's volts.
    """

    capacity: float = 0.02
    cell: float = 0.02
    resistance: float = 0.10
    group: float = 0.02
    joint: float = 0.10
    joints: float = 0.15
    parts: float = 0.15
    cooling: float = 0.20
    strip: float = 0.25
    leads: float = 0.15
    charge: float = 0.004
    over_v: float = 0.012
    under_v: float = 0.025
    trip: float = 0.05
    charger: float = 0.003
    surge: float = 0.15


class BenchPack(Struct, frozen=True, eq=False):
    """A pack as designed and new, for one current.

    ``group_ah`` is the charge of a group from empty to full; ``joint_ohm`` (S − 1,) are the series
    connections, ``parts_ohm`` (4,) what PARTS names. ``strip_k`` and ``leads_k`` are by how much
    the busiest strip rises over the cells and the leads over the air at ``load_a``, with the time
    constants ``strip_s`` and ``leads_s``. ``floor_v`` is where a group ends a discharge; that of
    the tests draws ``discharge_a``, the same unless it would warm the cells past their limit.
    ``full_over`` is by how much of its charge a full charge ends over where it would if its last
    current had flowed for long.
    ``surge_a`` is the peak of a start, 0 where none is known.
    """

    cell: Cell
    behaviour: Behaviour
    series: int
    parallel: int
    group_ah: float
    joint_ohm: Array
    parts_ohm: Array
    kelvin_per_watt: float
    joule_per_kelvin: float
    strip_k: float
    strip_s: float
    leads_k: float
    leads_s: float
    ambient_c: float
    limit_c: float
    load_a: float
    discharge_a: float
    full_v: float
    stop_v: float
    floor_v: float
    charge_a: float
    charger_v: float
    charger_end_a: float
    surge_a: float
    board: Board | None
    spreads: Spreads
    full_over: float = 0.0

    @property
    def opens(self) -> bool:
        """Whether the BMS ends a discharge at an empty group, and not the floor of the cells."""
        board = self.board
        return board is not None and board.protects and board.under_voltage_v >= self.floor_v

    @property
    def full_group_v(self) -> float:
        """At how many V of a group the BMS opens the charge; infinite without one that does."""
        board = self.board
        return math.inf if board is None or not board.ends_a_charge else board.over_voltage_v

    @property
    def tail_a(self) -> float:
        """Under how many A the full charge is taken to have ended."""
        return min(TAIL_SHARE * self.group_ah, TAIL_OF_CHARGE * self.charge_a)

    @property
    def group(self) -> ModelledPack:
        """One group by itself, with its share of the warmth."""
        heat_ohm = float(self.joint_ohm.sum()) / self.series
        return ModelledPack(
            self.cell,
            self.behaviour,
            series=1,
            parallel=self.parallel,
            capacity_ah=self.group_ah,
            path_ohm=0.0,
            heat_path_ohm=heat_ohm,
            stop_v=0.01,
            ambient_c=self.ambient_c,
            limit_c=self.limit_c,
            kelvin_per_watt=self.kelvin_per_watt * self.series,
            joule_per_kelvin=self.joule_per_kelvin / self.series,
        )


class Built(Struct, frozen=True, eq=False):
    """Packs as they were built, n of them: factors over the design.

    ``capacity``, ``resistance`` and ``charge`` (n, S) are of the groups, ``charge`` what each is
    over the mean when the pack is full; ``joints`` (n, S − 1), ``parts`` (n, 4); ``cooling``,
    ``strip`` and ``leads`` (n,) of the rises; ``over_v``, ``under_v`` in V a group and ``trip``,
    ``charger`` as factors.
    """

    capacity: Array
    resistance: Array
    charge: Array
    joints: Array
    parts: Array
    cooling: Array
    strip: Array
    leads: Array
    over_v: Array
    under_v: Array
    trip: Array
    charger: Array

    @property
    def many(self) -> int:
        """How many packs."""
        return len(self.cooling)


def built(pack: BenchPack, count: int, seed: int) -> Built:
    """Draw packs as they may be built; the same seed draws the same (methods 42)."""
    generator, spreads = np.random.default_rng(seed), pack.spreads
    groups, joints = pack.series, max(pack.series - 1, 0)

    def drawn(share: float, *shape: int) -> Array:
        return share * np.clip(generator.standard_normal((count, *shape)), -FURTHEST, FURTHEST)

    def factor(share: float, *shape: int) -> Array:
        return np.exp(drawn(share, *shape))

    charge = drawn(spreads.charge, groups)
    return Built(
        capacity=factor(spreads.capacity, 1)
        * factor(spreads.cell / math.sqrt(pack.parallel), groups),
        resistance=factor(spreads.resistance, 1) * factor(spreads.group, groups),
        charge=charge - charge.mean(axis=1, keepdims=True),
        joints=factor(spreads.joints, 1) * factor(spreads.joint, joints),
        parts=factor(spreads.parts, len(PARTS)),
        cooling=factor(spreads.cooling),
        strip=factor(spreads.strip),
        leads=factor(spreads.leads),
        over_v=drawn(spreads.over_v),
        under_v=drawn(spreads.under_v),
        trip=1.0 + drawn(spreads.trip),
        charger=1.0 + drawn(spreads.charger),
    )


def as_designed(pack: BenchPack, count: int = 1) -> Built:
    """Packs just as they were designed."""
    ones, none = np.ones(count), np.zeros(count)
    groups = np.ones((count, pack.series))
    return Built(
        capacity=groups,
        resistance=groups,
        charge=0.0 * groups,
        joints=np.ones((count, max(pack.series - 1, 0))),
        parts=np.ones((count, len(PARTS))),
        cooling=ones,
        strip=ones,
        leads=ones,
        over_v=none,
        under_v=none,
        trip=ones,
        charger=ones,
    )
