"""What evens the groups out: a bleed, own resistors, a mover; whether, for how long, how warm."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from lumvak.core.catalogue.boards import Board
from lumvak.core.charging.cycles import EVEN_SHARE, Course, CycleSetting, course_of
from lumvak.core.charging.groups_now import GroupsNow
from lumvak.core.charging.groups_run import Active, Array, Bleed, Groups
from lumvak.core.charging.imbalance import excess_ah, hours_moved, hours_to_even
from lumvak.core.charging.phase import Equipment, Grain
from lumvak.core.charging.resistor import resistor
from lumvak.core.document.charging import Charging
from lumvak.core.figures.figure import Figure, Origin, Rule, typed
from lumvak.core.said import Text, capital, phrase, say, say_hours

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
EXCESS_AH = Rule("charging.excess_ah", "The fullest must lose", "Ah",
                 "most room of all groups − its own", "methods 35")
CEILING_GROUP_V = Rule("charging.ceiling_group_v", "Ceiling of a group", "V",
                       "the least of the builder's and the cell's", "methods 37")
BLEED_A = Rule("charging.bleed_a", "Arrives where it is wanted", "A",
               "what it takes × what of it arrives", "methods 35")
BLEED_W = Rule("charging.bleed_w", "Heat of all bleeding at once", "W", "groups × volts × bleed",
               "methods 35")
CHARGING_BLEED_W = Rule("charging.bleed_w", "Heat of the mover", "W",
                        "what it takes × volts × what does not arrive", "methods 35")
BEHIND_A = Rule("charging.behind_a", "Groups fall apart by", "A",
                "most that a group loses by itself − least", "methods 35")
EVEN_H = Rule("charging.even_h", "Hours at the top until even", "h",
              "(what must be lost + what they fall apart by until then) ÷ bleed", "methods 35")
CHARGING_EVEN_H = Rule("charging.even_h", "Hours until even", "h",
                       "what must be taken, so that with what arrives all have alike room ÷ what "
                       "it takes, less what groups lose by themselves", "methods 35")
EVEN_CHARGES = Rule("charging.even_charges", "Charges until even", "",
                    "the course of charging, holding, emptying and waiting, followed", "methods 35")
CHARGING_BLEED_A = Rule("charging.bleed_a", "A group is bled by", "A", "of {}", "methods 35")
# fmt: on

# Where nobody says a bleed begins so far under the ceiling of a cell.
UNDER_CEILING_V = 0.03
# A strategy that looks at the others bleeds what is over the lowest by so much.
OVER_LOWEST_V = 0.01
# A balancer without a threshold works at any volts of a cell.
ANY_V = 0.5
# A course is followed this closely.
GRAIN = Grain(1200.0, 0.01, 15.0, 2e-5)
# Cycles are looked at in a warm room.
ROOM_C = 25.0
# A bleed that leaves more than this of what they are apart does not even them out.
LEFT_OF_IT = 0.25
# What happens within so many charges happens before the next.
SOON = 2
# Nor does one that wants more charges than this, and of all that it burns less than this evens.
CREEPS, ALIKE = 30.0, 0.03


class Means(Struct, frozen=True):
    """What evens groups out: a bleed or a mover, in words ``name``.

    ``burns`` says why it must not be used, ``origin`` where its current comes from.
    """

    bleed: Bleed | None
    active: Active | None
    name: Text
    burns: Text = ""
    origin: Origin = "sheet"


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


class Never(Struct, frozen=True):
    """Why groups never come together, what would bring them there, and whether it is a stop."""

    because: Text
    would: Text
    stop: bool = False


def board_bleed(board: Board | None, ceiling_v: float, spread_v: float | None) -> Bleed | None:
    """The bleed of a board; ``None`` where it has none."""
    if board is None or board.balance_a == 0.0:
        return None
    from_v = board.balance_from_v
    if from_v is None and board.kind == "balancer":
        return Bleed(ANY_V, amps=board.balance_a, spread_v=OVER_LOWEST_V, always=True)
    return Bleed(
        ceiling_v - UNDER_CEILING_V if from_v is None else from_v,
        amps=board.balance_a,
        spread_v=spread_v,
        always=board.balance_always,
        most=board.balance_most,
    )


def means_of(
    charging: Charging, board: Board | None, ceiling_v: float, spread_v: float | None
) -> Means:
    """What evens the groups out as the builder chose (methods 35)."""
    if charging.at == "bottom" or charging.by == "none":
        return Means(None, None, phrase("nothing"))
    if charging.by == "active":
        mover = charging.mover
        active = Active(mover.amps, mover.efficiency, mover.way)
        return Means(None, active, "a mover", origin="typed")
    if charging.by == "module":
        module = charging.module
        from_v = module.from_v or ceiling_v - UNDER_CEILING_V
        spread = OVER_LOWEST_V if module.strategy == "average" else None
        bleed = Bleed(from_v, module.ohm, spread_v=spread, always=module.always)
        mine = resistor(module.ohm, max(from_v, ceiling_v), 0.0, 1, module.watt)
        return Means(bleed, None, "resistors", mine.burns, "typed")
    found = board_bleed(board, ceiling_v, spread_v)
    return Means(found, None, phrase("nothing") if found is None or board is None else board.name)


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
    never = _never(means, groups, share=share, excess=excess, flow_a=flow_a, use=use, course=course)
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


def _left(course: Course | None, never: Never | None) -> float:
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


def _never(
    means: Means,
    groups: Groups,
    share: Array,
    excess: Array,
    flow_a: float,
    use: CycleSetting | None,
    course: Course | None,
) -> Never | None:
    """Why the groups never come together; ``None`` where they do, or are."""
    bleed, leak = means.bleed, groups.leak_a
    worst = int(leak.argmax()) + 1
    lost, bled = say(float(leak.max()), "A"), say(flow_a, "A")
    if means.burns:
        return _burns(means)
    if bleed is None and means.active is None:
        if excess.max() <= 1e-9 and np.ptp(leak) == 0.0:
            return None
        return Never(
            "nothing evens them out",
            "A board that balances or resistors would, or evening them out by hand.",
        )
    if means.active is not None:
        if hours_moved(groups.ah * (1.0 - share), means.active, leak) is not None:
            return None
        loses = phrase("group {} loses more than the {} that are put into it", worst, bled)
        return Never(loses, phrase("Find what draws {} from it.", lost))
    assert bleed is not None
    if course is not None and use is not None:
        return _never_in(course, groups, excess, bleed, flow_a, use)
    if hours_to_even(excess, flow_a, leak, most=bleed.most) is not None:
        return None
    loses = phrase("group {} loses {}, and others are bled by {}", worst, lost, bled)
    return Never(loses, phrase("Find what draws from group {}.", worst))


def _never_in(
    course: Course, groups: Groups, excess: Array, bleed: Bleed, flow_a: float, use: CycleSetting
) -> Never | None:
    """Why groups never come together in a course; ``None`` where they do, or nearly.

    It is long, for each reason is a sentence or two.
    """
    leak_a, worst = float(groups.leak_a.max()), int(groups.leak_a.argmax()) + 1
    finds = phrase("find what draws {} from group {}", say(1000.0 * leak_a, "mA"), worst)
    longer = phrase("longer than {}", say_hours(use.stays_h)) if use.stays_h else "some hours"
    if course.flat is not None:
        many = round(course.seen[-1][0])
        when = phrase("after {} charges", many) if many > SOON else "before the next"
        return Never(
            phrase(
                "group {} loses {} between two charges, and is under the {} from which it may "
                "be charged {}",
                course.flat,
                say(leak_a * use.between_h, "Ah"),
                say(use.dead_v, "V"),
                when,
            ),
            phrase("Do not use it so: {}, and charge before the pack is empty until then.", finds),
            True,
        )
    behind = groups.leak_a.max() - groups.leak_a
    evened = float((excess + behind * course.period_h * course.charges).sum()) * bleed.from_v
    if course.ends <= EVEN_SHARE:
        creeps = course.charges > CREEPS and evened < ALIKE * course.bled_wh * course.charges
        return _alike(bleed, course, course.begins) if creeps else None
    if course.drifts and np.ptp(groups.leak_a) > 0.0:
        lost = float(np.ptp(groups.leak_a)) * course.period_h
        mean_ah = float(groups.ah.mean())
        return Never(
            phrase(
                "from charge to charge group {} falls behind by {}, and no more than {} is "
                "bled while a charge is held at the top: they are {} of {} apart, and drift on",
                worst,
                say(lost, "Ah"),
                say(1000.0 * flow_a, "mA"),
                say(course.ends, "%"),
                say(mean_ah, "Ah"),
            ),
            phrase(
                "{}, charge more often, or leave it on the charger for {}.", capital(finds), longer
            ),
        )
    enough = max(LEFT_OF_IT * course.begins, 1.25 * EVEN_SHARE)
    if not course.drifts and course.ends <= min(enough, max(course.begins, EVEN_SHARE)):
        return None
    if course.bled_wh <= 1e-9:
        return _not_reached(bleed)
    stays = phrase("they stay {} apart", say(course.ends, "%"))
    if np.ptp(groups.leak_a) > 0.0 and course.ends > course.begins:
        return Never(
            phrase(
                "what group {} loses from charge to charge is bled of the others too late: {}",
                worst,
                stays,
            ),
            phrase("{}, or leave it on the charger for {}.", capital(finds), longer),
        )
    if course.cut and use.back_v is not None and bleed.from_v - bleed.back_v > use.back_v:
        return Never(
            phrase(
                "the board ends the charge at the fullest group and holds it off until that is "
                "under {}, lower than it is bled: {}",
                say(use.back_v, "V"),
                stays,
            ),
            "Use some charge and charge again, slowly at the end, or even out by hand.",
        )
    return _alike(bleed, course, course.ends)


def _burns(means: Means) -> Never:
    """What evens them out takes more than it bears."""
    return Never(means.burns, "Take one that bears twice its watts, or more ohms.", True)


def _not_reached(bleed: Bleed) -> Never:
    """The charge ends before any group is bled."""
    from_v = say(bleed.from_v, "V")
    return Never(
        phrase("no group comes to {}, where it is bled, before the charge ends", from_v),
        "A charger for the full voltage now and then would, or a bleed that begins lower.",
    )


def surely_never(means: Means, groups: Groups, share: Array, use: CycleSetting) -> Never | None:
    """What is plain without a course: a resistor that burns, no group that is bled, a great leak.

    Groups are at charges ``share`` (n,). ``None`` says nothing: a course may still find that groups
    never come together.
    """
    if means.burns:
        return _burns(means)
    bleed = means.bleed
    if bleed is None:
        return None
    highest = _fullest_v(groups, share, use.hold_v / len(share))
    if highest + float(groups.ohm.max()) * use.end_a < bleed.from_v:
        return _not_reached(bleed)
    behind, worst = float(np.ptp(groups.leak_a)), int(groups.leak_a.argmax()) + 1
    # Even were it bled in all of the charge.
    most_h = use.stays_h + float(groups.ah.max()) / use.amps
    if behind * use.between_h > bleed.at(bleed.from_v) * most_h:
        return Never(
            phrase(
                "group {} loses {} more than others between two charges, and no charge bleeds {}",
                worst,
                say(behind * use.between_h, "Ah"),
                say(bleed.at(bleed.from_v) * most_h, "Ah"),
            ),
            phrase("Find what draws {} from group {}.", say(1000.0 * behind, "mA"), worst),
            behind * use.between_h > float(groups.ah.min()),
        )
    return None


def _alike(bleed: Bleed, course: Course, apart: float) -> Never:
    """All groups are bled, and so none of them catches up."""
    return Never(
        phrase(
            "at the end of a charge all groups are over {} and bled alike: they stay {} "
            "apart, and {} are burnt in each charge",
            say(bleed.from_v, "V"),
            say(apart, "%"),
            say(course.bled_wh, "Wh"),
        ),
        "A bleed that looks at the others would, one that begins nearer the ceiling, or evening "
        "out by hand.",
    )


def _cut_off_v(groups: Groups, share: Array, use: CycleSetting | None) -> float | None:
    """Where the board ends a charge before all are full; ``None`` where it does not."""
    if use is None or use.over_v is None:
        return None
    at_v = min(use.hold_v / len(share), use.over_v)
    return use.over_v if _fullest_v(groups, share, at_v) >= use.over_v else None


def _fullest_v(groups: Groups, share: Array, at_v: float) -> float:
    """Rest volts of the group that is furthest ahead, where the middle rests at ``at_v``."""
    room = groups.ah * (1.0 - share)
    ahead = float(((room.mean() - room) / groups.ah).max())
    full = float(groups.charge_at(np.array(at_v)))
    return float(groups.rest(np.array(full + ahead))[0])


def _figures(
    means: Means,
    groups: Groups,
    excess: Array,
    flow_a: float,
    hours: float | None,
    heat_w: float,
    course: Course | None,
    full_v: float,
    origin: Origin,
) -> tuple[Figure, ...]:
    most = EXCESS_AH.of(float(excess.max()), origin=origin)
    if (active := means.active) is not None:
        amps = typed("charging.mover.amps", "The mover takes", active.amps, "A")
        arrives = typed("charging.mover.efficiency", "Of it arrives", active.efficiency, "%")
        volts = CEILING_GROUP_V.of(full_v)
        return (
            most,
            BLEED_A.of(flow_a, amps, arrives),
            CHARGING_EVEN_H.of(hours, most, amps, arrives),
            CHARGING_BLEED_W.of(heat_w, amps, volts, arrives),
        )
    flow = CHARGING_BLEED_A.of(flow_a, origin=means.origin, rule=means.name)
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
