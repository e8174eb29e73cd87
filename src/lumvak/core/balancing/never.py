"""Why groups never even out: no bleed, one that begins too high, is too weak, or is outrun."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from lumvak.core.balancing.cycles import EVEN_SHARE, BalancingCourse, CycleSetting
from lumvak.core.balancing.groups_run import Array, Bleed, Groups
from lumvak.core.balancing.imbalance import hours_moved, hours_to_even
from lumvak.core.balancing.means import Means
from lumvak.core.said import Text, capital, phrase, say, say_hours

# A bleed that leaves more than this of what they are apart does not even them out.
LEFT_OF_IT = 0.25


# What happens within so many charges happens before the next.
SOON = 2


# Nor does one that wants more charges than this, and of all that it burns less than this evens.
CREEPS, ALIKE = 30.0, 0.03


class Never(Struct, frozen=True):
    """Why groups never come together, what would bring them there, and whether it is a stop."""

    because: Text
    would: Text
    stop: bool = False


def why_never(
    means: Means,
    groups: Groups,
    share: Array,
    excess: Array,
    flow_a: float,
    use: CycleSetting | None,
    course: BalancingCourse | None,
) -> Never | None:
    """Why the groups never come together; ``None`` where they do, or are.

    ``share`` (n,) is their charge, ``excess`` (n,) what each must lose in Ah, ``course`` the use
    followed from charge to charge, where that was done.
    """
    bleed, leak = means.bleed, groups.leak_a
    worst = int(leak.argmax()) + 1
    lost, bled = say(float(leak.max()), "A"), say(flow_a, "A")
    if means.burns:
        return _burns(means)
    if bleed is None and means.active is None:
        if excess.max() <= 1e-9 and np.ptp(leak) == 0.0:
            return None
        return Never(
            "nothing balances them",
            "A BMS that balances or resistors would, or balancing by hand.",
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
    course: BalancingCourse,
    groups: Groups,
    excess: Array,
    bleed: Bleed,
    flow_a: float,
    use: CycleSetting,
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
                "the BMS ends the charge at the fullest group and holds it off until that is "
                "under {}, lower than it is bled: {}",
                say(use.back_v, "V"),
                stays,
            ),
            "Use some charge and charge again, slowly at the end, or balance by hand.",
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
    highest = fullest_v(groups, share, use.hold_v / len(share))
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


def _alike(bleed: Bleed, course: BalancingCourse, apart: float) -> Never:
    """All groups are bled, and so none of them catches up."""
    return Never(
        phrase(
            "at the end of a charge all groups are over {} and bled alike: they stay {} "
            "apart, and {} are burnt in each charge",
            say(bleed.from_v, "V"),
            say(apart, "%"),
            say(course.bled_wh, "Wh"),
        ),
        "A bleed that looks at the others would, one that begins nearer the charge limit, or "
        "balancing "
        "out by hand.",
    )


def fullest_v(groups: Groups, share: Array, at_v: float) -> float:
    """Rest volts of the group furthest ahead, where the middle of charges ``share`` (n,) rests at
    ``at_v``.
    """
    room = groups.ah * (1.0 - share)
    ahead = float(((room.mean() - room) / groups.ah).max())
    full = float(groups.charge_at(np.array(at_v)))
    return float(groups.rest(np.array(full + ahead))[0])
