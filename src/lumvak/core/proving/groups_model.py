"""Built packs under current, group by group: volts along the path and warmth (methods 16, 42)."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.proving.bench_pack import BenchPack, Built
from lumvak.core.run.model import Loads, Model, Spans, States

Array = NDArray[np.float64]
ROUNDS = 2
# Over full a cell rises by at least so many volts for all of its charge once more, and under empty
# it falls by so many (ours).
OVER_V, UNDER_V = 1.2, 10.0
# Full is looked for between these charges, halved so often.
FULL_BETWEEN, HALVED = (0.5, 1.5), 24
# The current that a supply at its volts gives over a step is found in so many rounds.
HELD_ROUNDS = 6


class Now(Struct, frozen=True, eq=False):
    """Where built packs stand: their groups (n, S), and the rises of strip and leads in K (n,)."""

    groups: States
    strip_k: Array
    leads_k: Array


class Seen(Struct, frozen=True, eq=False):
    """What built packs show at a current: volts of groups (n, S) and along the path (n,).

    ``pack_v`` is at the ends of the cells with their strips, ``output_v`` behind fuse, leads, BMS
    and connector; ``cells_c`` is the warmest group.
    """

    group_v: Array
    pack_v: Array
    output_v: Array
    cells_c: Array
    strip_c: Array
    leads_c: Array


class GroupsModel:
    """Built packs with their equations; currents are (n,), those of a charge negative."""

    def __init__(self, pack: BenchPack, packs: Built) -> None:
        self.pack, self.packs = pack, packs
        self.model = Model(
            pack.group,
            packs.capacity,
            packs.resistance,
            cooling=packs.cooling[:, None],
        )
        # What the length of the last step decides; most are as long as the one before.
        self._spans: tuple[float, Spans] | None = None
        seen = pack.behaviour
        top = (seen.rest_v[-1] - seen.rest_v[-2]) / (seen.rest_charge[-1] - seen.rest_charge[-2])
        low = (seen.rest_v[1] - seen.rest_v[0]) / (seen.rest_charge[1] - seen.rest_charge[0])
        self.over_v, self.under_v = max(float(top), OVER_V), max(float(low), UNDER_V)
        self.joints_ohm = packs.joints @ pack.joint_ohm
        self.parts_ohm = packs.parts * pack.parts_ohm
        self.path_ohm = self.parts_ohm.sum(axis=1)

    def at_charge(self, charge: Array) -> Now:
        """At rest at charges of the groups (n, S), as warm as the air."""
        still = np.zeros_like(charge)
        none = np.zeros(len(charge))
        warm = still + self.pack.ambient_c
        return Now(States(charge, still, still, warm), none, none)

    def after(self, now: Now, amps: Array, seconds: float) -> Now:
        """Where they stand after ``seconds`` of a held current (n,)."""
        pack, packs = self.pack, self.packs
        loads = Loads(amps[:, None], None)
        if self._spans is None or self._spans[0] != seconds:
            self._spans = seconds, self.model.spans(np.array([[seconds]]))
        groups, _ = self.model.stepped(now.groups, loads, self._spans[1], ROUNDS)
        share = (amps / pack.load_a) ** 2

        def risen(rise: Array, full_k: Array, constant_s: float) -> Array:
            to = full_k * share
            return np.asarray(to + (rise - to) * np.exp(-seconds / constant_s))

        return Now(
            groups,
            risen(now.strip_k, packs.strip * pack.strip_k, pack.strip_s),
            risen(now.leads_k, packs.leads * pack.leads_k, pack.leads_s),
        )

    @cached_property
    def full(self) -> Array:
        """Charges of the groups (n, S) once the full charge has ended.

        There the last current, which has fallen to it, shows the full voltage at the output; or the
        BMS opens before, at the highest group.
        """
        pack, opens_v = self.pack, self.pack.full_group_v + self.packs.over_v
        mean = self._mean_at(pack.tail_a, self._over_full_v)
        highest = self._highest_v(mean, pack.tail_a)
        mean = mean + pack.full_over
        if (highest > opens_v).any():
            # It falls from the current of the charger to the last one, while the highest rises.
            begins = self._mean_at(pack.charge_a, self._over_full_v)
            was = self._highest_v(begins, pack.charge_a)
            part = (opens_v - was) / np.where(highest == was, 1.0, highest - was)
            at_once = self._mean_at(
                pack.charge_a, lambda at, amps: self._highest_v(at, amps) - opens_v
            )
            opened = np.where(part > 0.0, begins + part * (mean - begins), at_once)
            mean = np.where(highest > opens_v, np.minimum(opened, mean), mean)
        return np.asarray(mean[:, None] + self.packs.charge)

    def _over_full_v(self, mean: Array, amps: float) -> Array:
        """By how much the output stands over the full voltage, charged with ``amps``, (n,)."""
        groups = self.creeping_v(mean[:, None] + self.packs.charge, -amps)
        path_v = amps * (self.joints_ohm + self.path_ohm)
        return np.asarray(groups.sum(axis=1) + path_v - self.pack.full_v)

    def _highest_v(self, mean: Array, amps: float) -> Array:
        highest = self.creeping_v(mean[:, None] + self.packs.charge, -amps).max(axis=1)
        return np.asarray(highest)

    def _mean_at(self, amps: float, over: Callable[[Array, float], Array]) -> Array:
        """The mean charge (n,) at which ``over`` comes to 0, by halving."""
        low, high = (np.full(self.packs.many, it) for it in FULL_BETWEEN)
        for _ in range(HALVED):
            middle = 0.5 * (low + high)
            under = over(middle, amps) < 0.0
            low, high = np.where(under, middle, low), np.where(under, high, middle)
        return np.asarray(0.5 * (low + high))

    def fed_a(self, now: Now, volts: float, most_a: float, seconds: float) -> Array:
        """What a supply gives in A (n,) over ``seconds``: so much that it stands at its volts then.

        At most ``most_a``; 0 where the packs stand over it. By false position, the end that stays
        weighed half (the Illinois rule).
        """

        def over_v(amps: Array) -> Array:
            return self.seen(self.after(now, -amps, seconds), -amps).output_v - volts

        low, high = np.zeros(self.packs.many), np.full(self.packs.many, most_a)
        over = over_v(high)
        if (over <= 0.0).all():
            return high
        under = over_v(low)
        ends = np.where(over <= 0.0, high, np.where(under >= 0.0, low, np.nan))
        for _ in range(HELD_ROUNDS):
            if np.isfinite(ends).all():
                break
            amps = low + (high - low) * under / np.where(under == over, 1.0, under - over)
            at = over_v(amps)
            is_over = at > 0.0
            under = np.where(is_over, 0.5 * under, at)
            over = np.where(is_over, at, 0.5 * over)
            low, high = np.where(is_over, low, amps), np.where(is_over, amps, high)
        middle = low + (high - low) * under / np.where(under == over, 1.0, under - over)
        return np.where(np.isfinite(ends), ends, middle)

    def creeping_v(self, charge: Array, amps: float) -> Array:
        """Volts of groups (n, S) at charges, with little current that has flowed for long."""
        pack, seen = self.pack, self.pack.behaviour
        surface = charge - amps * seen.lag_s * self.model.charge_per_as
        factor = seen.charge_factor(surface) * seen.ohm_factor(np.array(pack.ambient_c))
        sag = amps / pack.parallel * seen.steady_ohm * self.packs.resistance * factor
        return np.asarray(seen.rest(surface) + self._beyond_v(surface) - sag)

    def _beyond_v(self, surface: Array) -> Array:
        """By how many V a cell stands beyond its curve, over full and under empty (n, S)."""
        over = np.maximum(surface - 1.0, 0.0) * self.over_v
        return np.asarray(over - np.maximum(-surface, 0.0) * self.under_v)

    def seen(self, now: Now, amps: Array) -> Seen:
        """What they show at a current (n,)."""
        draw = self.model.draw(now.groups, Loads(amps[:, None], None))
        beyond = self._beyond_v(now.groups.charge - now.groups.lag)
        group_v = draw.surface_v + beyond - now.groups.slow_v - draw.sag * self.model.fast_ohm
        pack_v = group_v.sum(axis=1) - amps * self.joints_ohm
        cells_c = now.groups.celsius.max(axis=1)
        return Seen(
            group_v,
            pack_v=pack_v,
            output_v=pack_v - amps * self.path_ohm,
            cells_c=cells_c,
            strip_c=cells_c + now.strip_k,
            leads_c=self.pack.ambient_c + now.leads_k,
        )
