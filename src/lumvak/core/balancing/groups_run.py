"""Groups of a pack under a common current, each with its own bleed: one step at a time.

The state is the charge of every group and one temperature. What settles within a minute, the slow
part of the resistance and the lag of the surface, is taken as settled (methods 34). Currents into
the pack are positive here.
"""

from __future__ import annotations

import math
from functools import cached_property, lru_cache

import numpy as np
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrays import running_integral
from lumvak.core.cells.behaviour import Behaviour
from lumvak.core.cells.cell_model import ZERO_C_K

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
# A charge that changes by less than this share has as good as not changed.
STILL = 1e-9


def total(values: Array) -> float:
    """The sum of a few values (n,); quicker than their own method."""
    return float(np.add.reduce(values))


class Polyline(Struct, frozen=True, eq=False):
    """Straight pieces through points (n,): where pieces meet, values there, slopes, area before."""

    inner: Array
    begins: Array
    values: Array
    slope: Array
    before: Array

    @classmethod
    def through(cls, points: Array, values: Array) -> Polyline:
        """The line through ``values`` at ``points``, (n,) both; its ends go on."""
        by = np.diff(points)
        area = running_integral(values, by)
        return cls(points[1:-1], points, values, np.diff(values) / by, area)

    def at(self, points: Array) -> tuple[Array, Array]:
        """Values and slopes at points (any shape)."""
        place = self.inner.searchsorted(points, side="right")
        slope = self.slope[place]
        return self.values[place] + slope * (points - self.begins[place]), slope

    def area(self, points: Array) -> Array:
        """The area under it up to points (any shape), from its first."""
        place = self.inner.searchsorted(points, side="right")
        past = points - self.begins[place]
        mean = self.values[place] + self.slope[place] * past / 2.0
        return np.asarray(self.before[place] + past * mean)


def _mean(area: Array, by: Array, begun: Array) -> Array:
    """The mean of a line by the area under what was passed, (n,); where it ``begun`` if nothing."""
    still = np.abs(by) < STILL
    return np.where(still, begun, area / np.where(still, 1.0, by))


class Groups(Struct, frozen=True, eq=False, dict=True):
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
    def _rest(self) -> Polyline:
        return Polyline.through(self.behaviour.rest_charge, self.behaviour.rest_v)

    @cached_property
    def _factor(self) -> Polyline:
        return Polyline.through(self.behaviour.shape_charge, self.behaviour.shape)

    @cached_property
    def least(self) -> float:
        """The charge at which a group rests at 0 V: it loses nothing by itself under that."""
        return float(self.charge_at(np.array(0.0)))

    def rest(self, surface: Array) -> tuple[Array, Array]:
        """Rest volts at a charge (any shape) and their slope; beyond the curve its ends go on."""
        return self._rest.at(surface)

    def charge_at(self, volts: Array) -> Array:
        """Charge at which a group rests at ``volts`` (any shape), beyond the curve as ``rest``."""
        seen = self.behaviour
        slope = self._rest.slope
        inside = np.interp(volts, seen.rest_v, seen.rest_charge)
        over = np.maximum(volts - seen.rest_v[-1], 0.0) / max(float(slope[-1]), 1e-9)
        under = np.minimum(volts - seen.rest_v[0], 0.0) / max(float(slope[0]), 1e-9)
        return np.asarray(inside + over + under)

    def held_wh(self, charge: Array) -> Array:
        """What groups hold in Wh at their charges (n,), from empty."""
        return self.ah * self._rest.area(charge)

    def factor_passed(self, begun: Array, ended: Array) -> Array:
        """Resistance over that at half charge, the mean between two charges, (n,) each."""
        area = self._factor.area(ended) - self._factor.area(begun)
        return _mean(area, ended - begun, self._factor.at(begun)[0])


class BodyWarmth(Struct, frozen=True):
    """The pack as one warm body in air: K/W, J/K and the air in degC."""

    kelvin_per_watt: float
    joule_per_kelvin: float
    ambient_c: float


class Bleed(Struct, frozen=True):
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


class Active(Struct, frozen=True):
    """What moves charge: ``amps`` out of its source, ``efficiency`` of the energy arrives.

    ``way`` is from the highest group to the lowest, from the whole pack to the lowest, or from the
    highest to the whole pack; it works while groups are over ``spread_v`` apart.
    """

    amps: float
    efficiency: float = 0.85
    way: str = "high-low"
    spread_v: float = 0.005


class Moment(Struct, frozen=True, eq=False):
    """Where groups stand with what flows: charges (n,), degC, amps, volts of all and each (n,).

    ``bleed_a`` (n,) is bled, ``moved_a`` (n,) what a mover puts in. ``alpha_v`` and ``beta_ohm``
    make the volts of all at a current of the pack, its path with them, ``own_ohm`` (n,) is what a
    group is without its bleed, ``share`` what the bleed leaves of a rise, (n,) or (1,) where
    nothing bleeds, ``per_as`` (n,) how its rest volts rise for each A·s. ``held_a`` is what would
    flow at the volts held, were there no most of it.
    """

    charge: Array
    celsius: float
    amps: float
    volts: float
    group_v: Array
    bleed_a: Array
    moved_a: Array
    on: Mask
    alpha_v: float
    beta_ohm: float
    own_ohm: Array
    share: Array
    per_as: Array
    held_a: float


@lru_cache(maxsize=64)
def _warm(groups: Groups, celsius: float) -> tuple[Array, Array, Array]:
    """At a temperature, (n,) each: lag in charge for each A, ohm at half charge, 1 ÷ A·s."""
    seen, here = groups.behaviour, np.array(celsius)
    lead = seen.lag_s * float(seen.lag_factor(here)) / 3600.0 / groups.ah
    return lead, float(seen.ohm_factor(here)) * groups.ohm, 1.0 / (3600.0 * groups.ah)


def moment(
    groups: Groups,
    charge: Array,
    celsius: float,
    most_a: float,
    hold_v: float | None,
    on: Mask,
    bleed: Bleed | None,
    moved_a: Array,
    guess_a: Array | None = None,
) -> Moment:
    """What flows where groups stand: ``most_a``, or less where ``hold_v`` is reached.

    ``charge``, ``on`` (those that bleed) and ``moved_a`` are (n,), and ``guess_a`` is what flows
    into each group just before, where that is known: one round is enough then.
    A group's volts are U(charge + lag·I) + R·I with the current I into it, taken straight in I
    about the present one; in two rounds, for the lag moves along the curve.
    """
    seen = groups.behaviour
    lead, ohm, per_as = _warm(groups, celsius)
    push = seen.charge_factor(charge) * ohm
    bleeds = bleed if bleed is not None and on.any() else None
    amps = held_a = most_a
    bleed_a, share = np.zeros(len(charge)), np.ones(1)
    for place in range(2 if seen.lag_s and guess_a is None else 1):
        net = amps - bleed_a + moved_a if guess_a is None or place else guess_a
        lag = lead * net
        rest_v, slope = groups.rest(charge + lag)
        own = push + slope * lead
        alpha, beta = rest_v - slope * lag + own * moved_a, own
        if bleeds is not None:
            if bleeds.ohm is None:
                alpha = alpha - own * (on * bleeds.amps)
            else:
                share = np.asarray(1.0 / (1.0 + own * (on / bleeds.ohm)))
                alpha, beta = alpha * share, own * share
        alpha_v, beta_ohm = total(alpha), total(beta) + groups.path_ohm
        held_a = amps = most_a
        if hold_v is not None:
            # A charger gives and does not take.
            held_a = (hold_v - alpha_v) / beta_ohm
            amps = min(most_a, max(held_a, 0.0))
        group_v = alpha + beta * amps
        if bleeds is not None:
            flow = bleeds.amps if bleeds.ohm is None else group_v / bleeds.ohm
            bleed_a = np.asarray(on * flow)
    return Moment(
        charge,
        celsius,
        amps=amps,
        volts=alpha_v + beta_ohm * amps,
        group_v=group_v,
        bleed_a=bleed_a,
        moved_a=moved_a,
        on=on,
        alpha_v=alpha_v,
        beta_ohm=beta_ohm,
        own_ohm=own,
        share=share,
        per_as=slope * per_as,
        held_a=held_a,
    )


class StepPassed(Struct, frozen=True, eq=False):
    """What flows in a step of ``seconds``: mean amps of the pack and their mean square about that.

    ``through`` (n,) flows into each group on the mean, ``bleed_a`` (n,) is bled, ``leak_a`` (n,)
    lost by themselves; ``charge`` (n,) are the charges then. ``end_a`` is what the pack's current
    comes to.
    """

    seconds: float
    amps: float
    spread_a2: float
    end_a: float
    through: Array
    bleed_a: Array
    leak_a: Array
    charge: Array


class Sums(Struct, frozen=True):
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


SUMS = Sums.__struct_fields__


def _decayed(spent: float) -> tuple[float, float]:
    """What decays as e to the power of the time: its mean and its end after so many constants."""
    return (-math.expm1(-spent) / spent if spent > 1e-9 else 1.0), math.exp(-spent)


def taper_of(groups: Groups, at: Moment) -> tuple[float, float]:
    """One over the time constant in s of a current that is held, and what it comes to in A."""
    pace = at.per_as * at.share
    rises = max(total(pace), 1e-18)
    stays = total(pace * (at.bleed_a + groups.leak_a - at.moved_a)) / rises
    return rises / at.beta_ohm, stays


def passed(
    groups: Groups,
    at: Moment,
    seconds: float,
    most_a: float,
    hold_v: float | None,
    bleed: Bleed | None,
) -> StepPassed:
    """What flows in a step that begins ``at`` a moment.

    Where the volts are held the current goes, straight about its beginning, to what keeps them for
    good, as e to the power of the time over the taper's constant; that is what it comes to however
    long the step is.
    """
    hours, leak_a = seconds / 3600.0, groups.leak_a
    amps = end_a = at.amps
    spread_a2 = 0.0
    if hold_v is not None:
        per_s, stays = taper_of(groups, at)
        spent = per_s * seconds
        # What stands over the volts held waits for what is bled, and takes nothing till then.
        falls = stays * spent
        waits = 0.0 if at.held_a >= 0.0 else min(1.0, -at.held_a / max(falls, 1e-18))
        spent *= 1.0 - waits
        over = max(at.held_a, 0.0) - stays
        mean, left = _decayed(spent)
        amps = min(most_a, max((1.0 - waits) * (stays + over * mean), 0.0))
        end_a = min(most_a, max(stays + over * left, 0.0)) if waits < 1.0 else 0.0
        spread_a2 = over * over * max(_decayed(2.0 * spent)[0] - mean * mean, 0.0)
    bleed_a = at.bleed_a
    if bleed is not None and bleed.ohm is not None and at.on.any():
        # That of the middle of the step: by so much volts rise for each ampere until then.
        damped = at.on * (at.per_as * at.share * (seconds / 2.0 / bleed.ohm))
        bleed_a = bleed_a + damped / (1.0 + damped) * (amps - bleed_a + at.moved_a - leak_a)
    through = amps - bleed_a + at.moved_a
    if at.charge.min() < 0.5 and hours > 0.0:
        # What a group loses by itself ends where nothing is in it.
        leak_a = np.minimum(leak_a, np.maximum(at.charge - groups.least, 0.0) * groups.ah / hours)
    charge = at.charge + (through - leak_a) * hours / groups.ah
    return StepPassed(
        seconds,
        amps,
        spread_a2=spread_a2,
        end_a=end_a,
        through=through,
        bleed_a=bleed_a,
        leak_a=leak_a,
        charge=charge,
    )


def sums_of(groups: Groups, at: Moment, step: StepPassed) -> Sums:
    """What has flowed in a step that began ``at`` a moment.

    The mean volts of a group are those of the curve over the charge passed, as its surface sees
    it, and what its current adds.
    """
    lead, ohm, _ = _warm(groups, at.celsius)
    begun, charge, through, hours = at.charge, step.charge, step.through, step.seconds / 3600.0
    by = charge - begun
    stored = groups.held_wh(charge) - groups.held_wh(begun)
    rest_v = _mean(stored / groups.ah, by, groups.rest(begun)[0])
    push = ohm * groups.factor_passed(begun, charge)
    over_v, own = push * through, push
    if groups.behaviour.lag_s:
        lag = lead * through
        seen = groups.held_wh(charge + lag) - groups.held_wh(begun + lag)
        over_v = over_v + _mean(seen / groups.ah, by, groups.rest(begun + lag)[0]) - rest_v
        own = at.own_ohm
    # A current that changes in the step warms by more than its mean does.
    more_w = step.spread_a2 * (total(own) + groups.path_ohm)
    path_w = step.amps * step.amps * groups.path_ohm + more_w
    volts = rest_v + over_v
    return Sums(
        step.seconds,
        step.amps * hours,
        wh=(step.amps * total(volts) + path_w) * hours,
        stored_wh=total(stored),
        heat_wh=(total(over_v * through) + path_w) * hours,
        bleed_ah=total(step.bleed_a) * hours,
        bleed_wh=total(step.bleed_a * volts) * hours,
        moved_wh=total(at.moved_a * volts) * hours,
        leak_wh=total(step.leak_a * rest_v) * hours,
    )


def warmed(groups: Groups, at: Moment, step: StepPassed, sums: Sums, warmth: BodyWarmth) -> float:
    """The temperature in degC after a step: loss and reversible heat, cooled by the air."""
    # What is given off when a cell is discharged is taken up when it is charged.
    entropy = groups.behaviour.entropy_v_per_k
    heat = total(step.through) * (at.celsius + ZERO_C_K) * entropy
    if step.seconds > 0.0:
        path_w = (step.amps * step.amps + step.spread_a2) * groups.path_ohm
        heat += sums.heat_wh / (step.seconds / 3600.0) - path_w
    to = warmth.ambient_c + heat * warmth.kelvin_per_watt
    constant = warmth.kelvin_per_watt * warmth.joule_per_kelvin
    return to + (at.celsius - to) * math.exp(-step.seconds / constant)
