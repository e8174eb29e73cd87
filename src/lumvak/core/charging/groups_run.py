"""Groups of a pack under a common current, each with its own bleed: one step at a time.

The state is the charge of every group and one temperature. What settles within a minute, the slow
part of the resistance and the lag of the surface, is taken as settled (methods 34). Currents into
the pack are positive here.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import ZERO_C_K

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]


def total(values: Array) -> float:
    """The sum of a few values (n,); quicker than their own method."""
    return float(np.add.reduce(values))


@dataclass(frozen=True, eq=False)
class Groups:
    """Groups as they are charged, (n,) each: Ah from empty to full, steady resistance in ohm at
    half charge and 25 degC, and what each loses by itself in A. ``path_ohm`` is what lies between
    them and where the charger holds its voltage.
    """

    behaviour: Behaviour
    ah: Array
    ohm: Array
    leak_a: Array
    path_ohm: float = 0.0

    @cached_property
    def _slope(self) -> Array:
        seen = self.behaviour
        return np.asarray(np.diff(seen.rest_v) / np.diff(seen.rest_charge))

    @cached_property
    def _area(self) -> Array:
        """The rest volts summed over the charge, at each point of the curve."""
        charge, volts = self.behaviour.rest_charge, self.behaviour.rest_v
        pieces = np.diff(charge) * (volts[1:] + volts[:-1]) / 2.0
        return np.concatenate(([0.0], np.cumsum(pieces)))

    @cached_property
    def _inner(self) -> Array:
        return self.behaviour.rest_charge[1:-1]

    @cached_property
    def least(self) -> float:
        """The charge at which a group rests at 0 V: it loses nothing by itself under that."""
        return float(self.charge_at(np.array(0.0)))

    def rest(self, surface: Array) -> tuple[Array, Array]:
        """Rest volts at a charge (any shape) and their slope; beyond the curve its ends go on."""
        seen = self.behaviour
        place = self._inner.searchsorted(surface, side="right")
        slope = self._slope[place]
        return seen.rest_v[place] + slope * (surface - seen.rest_charge[place]), slope

    def charge_at(self, volts: Array) -> Array:
        """Charge at which a group rests at ``volts`` (any shape), beyond the curve as ``rest``."""
        seen = self.behaviour
        slope = self._slope
        inside = np.interp(volts, seen.rest_v, seen.rest_charge)
        over = np.maximum(volts - seen.rest_v[-1], 0.0) / max(float(slope[-1]), 1e-9)
        under = np.minimum(volts - seen.rest_v[0], 0.0) / max(float(slope[0]), 1e-9)
        return np.asarray(inside + over + under)

    def held_wh(self, charge: Array) -> Array:
        """What groups hold in Wh at their charges (n,), from empty."""
        seen = self.behaviour
        place = self._inner.searchsorted(charge, side="right")
        past = charge - seen.rest_charge[place]
        each = self._area[place] + past * (seen.rest_v[place] + self._slope[place] * past / 2.0)
        return np.asarray(self.ah * each)


@dataclass(frozen=True, slots=True)
class Warmth:
    """The pack as one warm body in air: K/W, J/K and the air in degC."""

    kelvin_per_watt: float
    joule_per_kelvin: float
    ambient_c: float


@dataclass(frozen=True, slots=True)
class Bleed:
    """What takes charge out of groups that are high.

    A resistor of ``ohm`` or else a current of ``amps``, from ``from_v`` on until
    ``back_v`` under it; where ``spread_v`` is given, only while the group is so much over the
    lowest. ``always`` goes on when nothing charges; ``most`` is how many bleed at once.
    """

    from_v: float
    ohm: float | None = None
    amps: float = 0.0
    back_v: float = 0.01
    spread_v: float | None = None
    always: bool = False
    most: int | None = None

    def at(self, volts: float) -> float:
        """What flows in A in a group at ``volts``."""
        return self.amps if self.ohm is None else volts / self.ohm


@dataclass(frozen=True, slots=True)
class Active:
    """What moves charge: ``amps`` out of its source, ``efficiency`` of the energy arrives.

    ``way`` is from the highest group to the lowest, from the whole pack to the lowest, or from the
    highest to the whole pack; it works while groups are over ``spread_v`` apart.
    """

    amps: float
    efficiency: float = 0.85
    way: str = "high-low"
    spread_v: float = 0.005


@dataclass(frozen=True, eq=False)
class Moment:
    """Where groups stand with what flows: charges (n,), degC, amps, volts of all and each (n,).

    ``bleed_a`` (n,) is bled, ``moved_a`` (n,) what a mover puts in. ``alpha_v`` and ``beta_ohm``
    (n,) make a group's volts at a current of the pack, ``own_ohm`` (n,) is what it is without its
    bleed, ``share`` (n,) what the bleed leaves of a rise, ``per_as`` (n,) how its rest volts rise
    for each A·s.
    """

    charge: Array
    celsius: float
    amps: float
    volts: float
    group_v: Array
    bleed_a: Array
    moved_a: Array
    on: Mask
    alpha_v: Array
    beta_ohm: Array
    own_ohm: Array
    share: Array
    per_as: Array


def moment(
    groups: Groups, charge: Array, celsius: float, most_a: float, hold_v: float | None, on: Mask,
    bleed: Bleed | None, moved_a: Array, guess_a: Array | None = None,
) -> Moment:  # fmt: skip
    """What flows where groups stand: ``most_a``, or less where ``hold_v`` is reached.

    ``charge``, ``on`` (those that bleed) and ``moved_a`` are (n,), and ``guess_a`` is what flows
    into each group just before, where that is known: one round is enough then.
    A group's volts are U(charge + lag·I) + R·I with the current I into it, taken straight in I
    about the present one; in two rounds, for the lag moves along the curve.
    """
    seen = groups.behaviour
    here = np.array(celsius)
    lead = seen.lag_s * float(seen.lag_factor(here)) / 3600.0 / groups.ah
    push = seen.charge_factor(charge) * float(seen.ohm_factor(here)) * groups.ohm
    amps, bleed_a = most_a, np.zeros(len(charge))
    for place in range(2 if seen.lag_s and guess_a is None else 1):
        net = amps - bleed_a + moved_a if guess_a is None or place else guess_a
        rest_v, slope = groups.rest(charge + lead * net)
        own = push + slope * lead
        alpha, beta = rest_v - slope * lead * net + own * moved_a, own
        share = np.ones(len(charge))
        if bleed is not None:
            if bleed.ohm is None:
                alpha = alpha - np.where(on, own * bleed.amps, 0.0)
            else:
                share = 1.0 / (1.0 + np.where(on, own / bleed.ohm, 0.0))
                alpha, beta = alpha * share, own * share
        amps = most_a
        if hold_v is not None:
            # A charger gives and does not take.
            held = (hold_v - total(alpha)) / (total(beta) + groups.path_ohm)
            amps = min(most_a, max(held, 0.0))
        group_v = alpha + beta * amps
        if bleed is not None:
            bleed_a = np.where(on, bleed.amps if bleed.ohm is None else group_v / bleed.ohm, 0.0)
    return Moment(
        charge, celsius, amps, total(group_v) + amps * groups.path_ohm, group_v, bleed_a,
        moved_a, on, alpha, beta, own, share, slope / (3600.0 * groups.ah),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Sums:
    """What has flowed since the beginning: s, Ah and Wh through the poles, Wh held, Wh of heat in
    the cells and the path, Ah and Wh bled, Wh that a mover put in, Wh lost by themselves.
    """

    seconds: float = 0.0
    ah: float = 0.0
    wh: float = 0.0
    stored_wh: float = 0.0
    heat_wh: float = 0.0
    bleed_ah: float = 0.0
    bleed_wh: float = 0.0
    moved_wh: float = 0.0
    leak_wh: float = 0.0

    def __add__(self, other: Sums) -> Sums:
        """Both, one after the other."""
        return Sums(*(getattr(self, name) + getattr(other, name) for name in SUMS))


SUMS = tuple(item.name for item in fields(Sums))


def stepped(
    groups: Groups, at: Moment, seconds: float, most_a: float, hold_v: float | None,
    bleed: Bleed | None, warmth: Warmth | None,
) -> tuple[Array, float, Sums]:  # fmt: skip
    """Charges (n,) and degC after a step that begins ``at`` a moment, and what flowed in it.

    Where the volts are held the current is that of the middle of the step, implicit in the charge
    and straight about its beginning, so that it stays true however long the step is. The mean
    volts of a group are those of the curve over the charge passed, and what its current adds.
    """
    hours = seconds / 3600.0
    # By so much the volts of a group rise for each ampere until the middle of the step.
    rise = at.per_as * (seconds / 2.0)
    bleed_a = at.bleed_a
    if bleed is not None and bleed.ohm is not None:
        damped = np.where(at.on, rise * at.share / bleed.ohm, 0.0)
        inward = at.amps - at.bleed_a + at.moved_a - groups.leak_a
        bleed_a = at.bleed_a + damped / (1.0 + damped) * inward
    amps = at.amps
    if hold_v is not None:
        lifted = rise * at.share
        long = total(lifted) > 0.25 * (total(at.beta_ohm) + groups.path_ohm)
        if long:
            # A step longer than the taper's time constant ends where it settles.
            lifted = 2.0 * lifted
        drift = total(lifted * (at.moved_a - bleed_a - groups.leak_a))
        ohm = total(at.beta_ohm + lifted) + groups.path_ohm
        amps = min(most_a, max((hold_v - total(at.alpha_v) - drift) / ohm, 0.0))
    through = amps - bleed_a + at.moved_a
    leak_a = groups.leak_a
    if at.charge.min() < 0.5 and hours > 0.0:
        # What a group loses by itself ends where nothing is in it.
        leak_a = np.minimum(leak_a, np.maximum(at.charge - groups.least, 0.0) * groups.ah / hours)
    passed = (through - leak_a) * hours / groups.ah
    charge = at.charge + passed
    stored = groups.held_wh(charge) - groups.held_wh(at.charge)
    still = np.abs(passed) < 1e-12
    rest_v = np.where(
        still, groups.rest(at.charge)[0], stored / np.where(still, 1.0, passed * groups.ah)
    )  # fmt: skip
    volts = rest_v + at.own_ohm * through
    path_w = amps * amps * groups.path_ohm
    heat_w = total(at.own_ohm * through * through)
    celsius = (
        at.celsius if warmth is None else _warmed(groups, at, seconds, through, heat_w, warmth)
    )
    return (
        charge,
        celsius,
        Sums(
            seconds,
            amps * hours,
            (amps * total(volts) + path_w) * hours,
            total(stored),
            (heat_w + path_w) * hours,
            total(bleed_a) * hours,
            total(bleed_a * volts) * hours,
            total(at.moved_a * volts) * hours,
            total(leak_a * rest_v) * hours,
        ),
    )


def _warmed(
    groups: Groups, at: Moment, seconds: float, through: Array, heat_w: float, warmth: Warmth
) -> float:
    """The temperature in degC after a step: loss and reversible heat, cooled by the air."""
    # What is given off when a cell is discharged is taken up when it is charged.
    entropy = groups.behaviour.entropy_v_per_k
    heat = heat_w + total(through) * (at.celsius + ZERO_C_K) * entropy
    to = warmth.ambient_c + heat * warmth.kelvin_per_watt
    constant = warmth.kelvin_per_watt * warmth.joule_per_kelvin
    return to + (at.celsius - to) * float(np.exp(-seconds / constant))
