"""What evens the groups out: a bleed, own resistors, a mover; whether, for how long, how warm."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.balancing.cycles import EVEN_SHARE, BalancingCourse, CycleSetting, course_of
from lumvak.core.balancing.groups_now import GroupsNow
from lumvak.core.balancing.groups_run import Active, Array, Bleed, Groups
from lumvak.core.balancing.imbalance import excess_ah, hours_moved, hours_to_even
from lumvak.core.balancing.means import ANY_V, Means
from lumvak.core.balancing.never import Never, fullest_v, why_never
from lumvak.core.balancing.phase import Equipment, Grain
from lumvak.core.figures.figure import Figure, Origin, Rule, typed
from lumvak.core.said import Text

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
EXCESS_AH = Rule("charging.excess_ah", "The fullest must lose", "Ah",
                 "most room of all groups − its own", "methods 35")
CEILING_GROUP_V = Rule("charging.ceiling_group_v", "Charge limit of a group", "V",
                       "the least of the builder's and the cell's", "methods 37")
BLEED_A = Rule("charging.bleed_a", "Arrives where it is wanted", "A",
               "what it takes × what of it arrives", "methods 35")
BLEED_W = Rule("charging.bleed_w", "Heat of all bleeding at once", "W", "groups × volts × bleed",
               "methods 35")
CHARGING_BLEED_W = Rule("charging.bleed_w", "Heat of the active balancer", "W",
                        "what it takes × volts × what does not arrive", "methods 35")
BEHIND_A = Rule("charging.behind_a", "Groups fall apart by", "A",
                "most that a group loses by itself − least", "methods 35")
EVEN_H = Rule("charging.even_h", "Hours at the top until balanced", "h",
              "(what must be lost + what they fall apart by until then) ÷ bleed", "methods 35")
CHARGING_EVEN_H = Rule("charging.even_h", "Hours until balanced", "h",
                       "what must be taken, so that with what arrives all have alike room ÷ what "
                       "it takes, less what groups lose by themselves", "methods 35")
EVEN_CHARGES = Rule("charging.even_charges", "Charges until balanced", "",
                    "the course of charging, holding, emptying and waiting, followed", "methods 35")
CHARGING_BLEED_A = Rule("charging.bleed_a", "A group is bled by", "A", "of {}", "methods 35")
# fmt: on

# A course is followed this closely.
GRAIN = Grain(1200.0, 0.01, 15.0, 2e-5)
# Cycles are looked at in a warm room.
ROOM_C = 25.0


class Balancing(Struct, frozen=True, eq=False):
    """What evens the groups out, and what that comes to.

    ``excess_ah`` (n,) is what each must lose so that all are full together; ``hours`` how long
    that takes at the top, ``None`` where it never does, and then ``because`` says why and
    ``would`` what would. ``days`` are those from charge to charge, ``None`` where nobody says how
    the pack is used. ``heat_w`` is the heat of all at once, ``flow_a`` what one is bled by, or is
    moved. ``left_share`` is by how much of a capacity groups stay apart. ``cut_off_v`` is where the
    board ends the charge at the fullest group while others are not full. ``stop`` is whether it may
    not be used so.
    """

    means: Means
    excess_ah: Array
    flow_a: float
    hours: float | None
    days: float | None
    because: Text
    would: Text
    heat_w: float
    left_share: float
    cut_off_v: float | None
    stop: bool
    figures: tuple[Figure, ...]

    @property
    def bleed(self) -> Bleed | None:
        """What bleeds groups that are high."""
        return self.means.bleed

    @property
    def active(self) -> Active | None:
        """What carries charge."""
        return self.means.active

    @property
    def name(self) -> Text:
        """What evens them out, in words."""
        return self.means.name

    @property
    def works(self) -> bool:
        """Whether anything evens the groups out."""
        return self.bleed is not None or self.active is not None


def balancing_of(
    means: Means,
    groups: Groups,
    share: Array,
    use: CycleSetting | None,
    full_v: float,
    origin: Origin = "computed",
) -> Balancing:
    """What evens groups at charges ``share`` (n,) out, for how long, how warm (methods 35).

    ``use`` is how the pack is used, from charge to charge; ``None`` where nobody says: groups are
    held at the top then for as long as it takes. ``full_v`` is the ceiling of a group, ``origin``
    where size and charge of the groups come from.
    """
    count, charge = len(share), share * groups.ah
    excess = excess_ah(groups.ah, charge)
    bleed, active = means.bleed, means.active
    flow_a = heat_w = 0.0
    if bleed is not None:
        at_v = full_v if bleed.from_v <= ANY_V else bleed.from_v
        flow_a = bleed.at(at_v)
        heat_w = (bleed.most or count) * at_v * flow_a
    elif active is not None:
        flow_a = active.amps * active.efficiency
        heat_w = active.amps * (1.0 - active.efficiency) * full_v
    behind = groups.leak_a.max() - groups.leak_a
    course = None
    apart = float(excess.max()) / float(groups.ah.mean())
    if use is not None and bleed is not None and (apart > EVEN_SHARE or behind.max() > 0.0):
        course = course_of(groups, share, ROOM_C, use, Equipment(bleed, grain=GRAIN))
    never = why_never(
        means, groups, share=share, excess=excess, flow_a=flow_a, use=use, course=course
    )
    hours, days = None, None
    if never is None and active is not None:
        hours = hours_moved(groups.ah - charge, active, groups.leak_a)
        days = None if hours is None else hours / 24.0
    elif never is None and course is not None:
        # Till then they must lose what they are apart by, and what others lose by themselves.
        many = course.charges
        hours = float((excess + behind * course.period_h * many).max()) / flow_a
        days = many * course.period_h / 24.0
    elif never is None:
        hours = hours_to_even(excess, flow_a, groups.leak_a, most=None if not bleed else bleed.most)
        # As near as that they are even as they stand.
        days = None if use is None and hours != 0.0 else 0.0
    return Balancing(
        means,
        excess,
        flow_a=flow_a,
        hours=hours,
        days=days,
        because="" if never is None else never.because,
        would="" if never is None else never.would,
        heat_w=heat_w,
        left_share=_left(course, never),
        cut_off_v=_cut_off_v(groups, share, use),
        stop=never is not None and never.stop,
        figures=tuple(
            _figures(
                means,
                groups,
                excess=excess,
                flow_a=flow_a,
                hours=hours,
                heat_w=heat_w,
                course=course,
                full_v=full_v,
                origin=origin,
            )
        ),
    )


def _left(course: BalancingCourse | None, never: Never | None) -> float:
    """By how much groups stay apart, as a share of a capacity."""
    if course is None:
        return 0.0
    if never is None:
        return course.level
    return course.ends if course.ends > EVEN_SHARE else course.begins


def balancing_now(
    means: Means, now: GroupsNow, use: CycleSetting | None, full_v: float
) -> Balancing:
    """``balancing_of`` the groups of a pack, as they are known."""
    return balancing_of(
        means, now.groups, now.share, use, full_v, origin_of((*now.ah_from, *now.share_from))
    )


def origin_of(known: Sequence[str]) -> Origin:
    """Where a value of many comes from: of the least sure of them.

    ``known`` are those of ``Known``.
    """
    order: tuple[tuple[str, Origin], ...] = (
        ("assumed", "assumed"),
        ("sheet", "sheet"),
        ("typed", "typed"),
        ("shown", "measured"),
        ("measured", "measured"),
    )
    return next((origin for name, origin in order if name in known), "assumed")


def _cut_off_v(groups: Groups, share: Array, use: CycleSetting | None) -> float | None:
    """Where the board ends a charge before all are full; ``None`` where it does not."""
    if use is None or use.over_v is None:
        return None
    at_v = min(use.hold_v / len(share), use.over_v)
    return use.over_v if fullest_v(groups, share, at_v) >= use.over_v else None


def _figures(
    means: Means,
    groups: Groups,
    excess: Array,
    flow_a: float,
    hours: float | None,
    heat_w: float,
    course: BalancingCourse | None,
    full_v: float,
    origin: Origin,
) -> tuple[Figure, ...]:
    most = EXCESS_AH.of(float(excess.max()), origin=origin)
    if (active := means.active) is not None:
        amps = typed("charging.mover.amps", "The active balancer takes", active.amps, "A")
        arrives = typed("charging.mover.efficiency", "Of it arrives", active.efficiency, "%")
        volts = CEILING_GROUP_V.of(full_v)
        return (
            most,
            BLEED_A.of(flow_a, amps, arrives),
            CHARGING_EVEN_H.of(hours, most, amps, arrives),
            CHARGING_BLEED_W.of(heat_w, amps, volts, arrives),
        )
    # What was typed of a resistor is not the flow itself: that is worked out from it.
    comes: Origin = "computed" if means.origin == "typed" else means.origin
    flow = CHARGING_BLEED_A.of(flow_a, origin=comes, rule=means.name)
    behind = BEHIND_A.of(float(np.ptp(groups.leak_a)), origin=origin)
    many = EVEN_CHARGES.of(
        None if course is None or hours is None else course.charges, most, flow, behind
    )
    return (
        most,
        flow,
        EVEN_H.of(hours, most, flow, behind, *(() if course is None else (many,))),
        BLEED_W.of(heat_w, flow),
    )
