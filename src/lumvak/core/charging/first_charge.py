"""The first charge in stages: how much, until when, what to watch, when to read, when to stop."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from lumvak.core.balancing.groups_run import Array, BodyWarmth, Groups
from lumvak.core.balancing.phase import FINE, MIDDLE, Grain
from lumvak.core.charging.to_full import Charge, FullSetting, charge_run
from lumvak.core.said import Text, phrase, say

SLOW_C, USUAL_C = 0.1, 0.5
# The slow stage lasts so long, and the usual one ends so far under the ceiling of a cell.
SLOW_H, UNDER_CEILING_V = 0.5, 0.1
# Groups so far from their mean are looked into: on the flat of the curve, and near its ends.
APART_V, APART_TOP_V = 0.03, 0.06
RISE_K, RISE_STOP_K = 5.0, 10.0
# What the charge at the beginning may be off by.
START_OFF = 0.03
# A charger that gives so much more than a stage wants is no longer about right for it.
SET_OVER = 0.1
CAUTIONS = (
    "Attended all the time, on a surface that cannot burn, with a way to carry the pack outside.",
    "Smell, hiss, smoke, swelling: charger off if that is safe, and go.",
    "Local rules stand over this.",
)


class AtHand(Struct, frozen=True):
    """What the first charge is done and read with.

    ``meter_v`` is how far apart in V two readings of one voltage may lie; ``fixed_a`` what a
    charger gives that cannot be set lower, ``None`` where it can; ``flat`` is whether the curve of
    the cells is too flat for their rise to be read.
    """

    meter_v: float = 0.0
    fixed_a: float | None = None
    flat: bool = False


FREE_HAND = AtHand()


class PlanStage(Struct, frozen=True):
    """A stage of a first charge.

    ``amps`` flow until ``until``; ``hours`` are expected. ``apart_v`` is how far a group may be
    from the mean, ``rise_k`` how much warmer than the air, ``stop`` what else ends it, ``read`` at
    which minutes what is read, ``by`` what it is charged with
    where the charger at hand gives more.
    """

    name: str
    amps: float
    until: Text
    hours: float
    apart_v: float
    rise_k: float
    watch: str
    read: tuple[float, ...]
    stop: tuple[Text, ...]
    by: Text = ""


class FirstCharge(Struct, frozen=True, eq=False):
    """The plan, with the charge that is expected over time, (m,) each, and what ends it.

    ``band_v`` (2, m) is what the volts may be for the spreads.
    """

    stages: tuple[PlanStage, ...]
    seconds: Array
    volts: Array
    amps: Array
    share: Array
    ended_by: str
    band_v: Array | None = None

    @property
    def hours(self) -> float:
        """How long it is expected to take."""
        return float(self.seconds[-1]) / 3600.0


def first_charge(
    groups: Groups,
    share: Array,
    setting: FullSetting,
    warmth: BodyWarmth,
    ceiling_v: float,
    grain: Grain = FINE,
    having: AtHand = FREE_HAND,
) -> FirstCharge:
    """Plan the first charge of groups that stand at ``share`` (n,) (methods 38).

    A tenth of the capacity an hour to see every group rise together, half of it then, no more
    than the charger or the pack bears; the taper, and a rest.
    """
    ah = float(groups.ah.min())
    slow_a, usual_a = min(SLOW_C * ah, setting.amps), min(USUAL_C * ah, setting.amps)
    series = len(groups.ah)
    slow = replace(setting, amps=slow_a, timer_h=SLOW_H, end_a=1e-6)
    first = charge_run(groups, share, slow, warmth, grain=grain)
    before_v = series * (ceiling_v - UNDER_CEILING_V)
    after, charges = first.group_share, [first]
    if first.ended_by == "timer":
        whole = replace(setting, amps=usual_a, end_a=min(setting.end_a, 0.5 * usual_a))
        charges.append(charge_run(groups, after, whole, warmth, grain=grain))
    last = charges[-1]
    begun = np.cumsum([0.0, *(float(item.seconds[-1]) for item in charges[:-1])])
    joined = [
        np.concatenate(
            [
                getattr(item, name) + (offset if name == "seconds" else 0.0)
                for item, offset in zip(charges, begun, strict=True)
            ]
        )
        for name in ("seconds", "volts", "amps", "share")
    ]
    stages = tuple(
        _stages(
            slow_a,
            usual_a,
            first=first,
            last=last,
            before_v=before_v,
            setting=setting,
            series=series,
            having=having,
        )
    )
    return FirstCharge(stages, joined[0], joined[1], joined[2], joined[3], last.ended_by)


def with_band(
    plan: FirstCharge,
    groups: Groups,
    share: Array,
    setting: FullSetting,
    warmth: BodyWarmth,
    ceiling_v: float,
    capacity_off: float,
    ohm_off: float,
) -> FirstCharge:
    """A plan with what its volts may be off by; groups begin at ``share`` (n,) (methods 38).

    ``capacity_off`` and ``ohm_off`` are what capacity and resistance may be off by, as shares; the
    beginning may be off by START_OFF. Each is changed alone.
    """
    varied = (
        (replace(groups, ah=groups.ah * (1.0 + capacity_off)), share),
        (replace(groups, ohm=groups.ohm * (1.0 + ohm_off)), share),
        (groups, np.clip(share + START_OFF, 0.0, 1.0)),
    )
    base = first_charge(groups, share, setting, warmth, ceiling_v, MIDDLE)
    base_v = np.interp(plan.seconds, base.seconds, base.volts)
    offs = []
    for changed, begins in varied:
        found = first_charge(changed, begins, setting, warmth, ceiling_v, MIDDLE)
        offs.append(np.interp(plan.seconds, found.seconds, found.volts) - base_v)
    off = np.sqrt(np.square(offs).sum(axis=0))
    return replace(plan, band_v=np.array([plan.volts - off, plan.volts + off]))


def _stages(
    slow_a: float,
    usual_a: float,
    first: Charge,
    last: Charge,
    before_v: float,
    setting: FullSetting,
    series: int,
    having: AtHand,
) -> Iterator[PlanStage]:
    """The stages in order. It is long, for each says what to watch and what stops it."""
    apart_v, top_v = max(APART_V, having.meter_v), max(APART_TOP_V, having.meter_v)
    yield PlanStage(
        "before",
        0.0,
        until="all is read and nothing is odd",
        hours=0.25,
        apart_v=apart_v,
        rise_k=0.0,
        watch="Polarity, insulation, no lead warm, the BMS awake.",
        read=(0.0,),
        stop=("a group under its recovery voltage, or far from the others",),
    )
    if having.flat:
        watch = (
            "On the flat of their curve groups rise too little to be told by that: they must stay "
            "together, and none may warm."
        )
        stops: tuple[str, ...] = (
            "a group that falls",
            "a group that runs ahead",
            "a group that warms alone",
        )
    else:
        watch = "Every group must rise, and alike."
        stops = ("a group that does not rise, or falls", "a group that runs ahead")
    yield PlanStage(
        "slow",
        slow_a,
        until=phrase("{} are over", say(SLOW_H * 60.0, "min")),
        hours=first.hours,
        apart_v=apart_v,
        rise_k=RISE_K,
        watch=watch,
        read=(0.0, 5.0, 15.0, 30.0),
        stop=stops,
        by=_by(slow_a, setting, having),
    )
    if last is first:
        return
    seconds = last.seconds
    reached = np.flatnonzero(last.volts >= before_v)
    turn_h = float(seconds[reached[0]]) / 3600.0 if len(reached) else last.hours
    by = _by(usual_a, setting, having)
    yield PlanStage(
        "usual",
        usual_a,
        until=phrase("the pack is at {}", say(before_v, "V")),
        hours=turn_h,
        apart_v=apart_v,
        rise_k=RISE_STOP_K,
        watch="Leads, plug and charger by hand: warm is well, hot is not.",
        read=tuple(30.0 * count for count in range(1, 1 + max(1, int(turn_h * 2.0)))),
        stop=("volts that fall while charging", "a lead, a joint or a corner warmer than the rest"),
        by=by,
    )
    ends = "nothing turns it off: take it off under " if not setting.turns_off else "under "
    yield PlanStage(
        "taper",
        usual_a,
        until=phrase("{}{}", ends, say(setting.end_a, "A")),
        hours=max(last.hours - turn_h, 0.0),
        apart_v=top_v,
        rise_k=RISE_STOP_K,
        watch="Which group is first to the top, and whether it is held.",
        read=(10.0, 20.0, 30.0),
        stop=("a group over its charge limit", "a current that rises again"),
        by=by,
    )
    yield PlanStage(
        "rest",
        0.0,
        until="an hour is over, and once more the next day",
        hours=1.0,
        apart_v=apart_v,
        rise_k=0.0,
        watch="A group that falls behind while it stands loses charge by itself.",
        read=(60.0, 1440.0),
        stop=(
            phrase(
                "more than {} lost by one group alone",
                say(max(20.0, 1000.0 * having.meter_v), "mV"),
            ),
        ),
    )


def _by(amps: float, setting: FullSetting, having: AtHand) -> Text:
    """What to charge with where the charger at hand gives more than a stage wants."""
    if having.fixed_a is None or having.fixed_a <= amps * (1.0 + SET_OVER):
        return ""
    volts = "" if setting.hold_v is None else phrase("{} and ", say(setting.hold_v, "V"))
    return phrase(
        "The charger gives {} and cannot be set lower: take a bench supply set to "
        "{}{}, or a small charger of no more.",
        say(having.fixed_a, "A"),
        volts,
        say(amps, "A"),
    )
