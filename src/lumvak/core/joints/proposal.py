"""The conductor that is proposed for a joint, and the one in force."""

from __future__ import annotations

from typing import NamedTuple

from msgspec.structs import replace

from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.document.joints import Joints, Strip
from lumvak.core.joints.candidates import (
    SCHOOL_NAMES,
    Candidate,
    Kind,
    Limited,
    Setting,
    fitted_width,
    judged,
    strip_count,
)
from lumvak.core.said import Text, digits, phrase, say

# So much over the load a proposed conductor carries for good.
MARGIN = 1.25


class Recommended(NamedTuple):
    """A conductor, and why it is that one."""

    limited: Limited
    why: Text


def recommended(
    found: tuple[Limited, ...], load: Setting, joints: Joints, over: float = 1.0
) -> Recommended:
    """The conductor to take for a role, and the reason in a sentence.

    Of those that can be joined and carry the demand with a quarter to spare by the school in
    force: fewest layers, a strip rather than a sheet or a busbar, fewest of the other schools
    against it, then the cheapest; plated steel only where nothing else serves. Where none carries
    it, the one that carries most. ``over`` is how many times more than by even sharing the solved
    network asks of the busiest piece (methods 10).
    """
    school = joints.school
    setting = replace(load, current_a=over * load.current_a, peak_a=over * load.peak_a)
    uneven = phrase(", {} times what equal sharing asks", digits(over, ".2f")) if over > 1.0 else ""
    joinable = [item for item in found if not item.bare.barred] or list(found)

    def effort(item: Limited) -> tuple[int, float]:
        bare = item.bare
        price = bare.part.price_per_m * bare.layers * bare.strips
        return sum(not item.carries(setting, other) for other in SCHOOL_NAMES), price

    kinds: dict[Kind, list[Limited]] = {}
    for item in joinable:
        kinds.setdefault(item.bare.kind, []).append(item)
    for kind in sorted(kinds):
        roomy = [item for item in kinds[kind] if item.carries(setting, school, MARGIN)]
        if not roomy:
            continue
        best = min(roomy, key=effort)
        limit = say(best.limits_a[school], "A")
        return Recommended(
            best,
            (
                phrase(
                    "fewest layers that carry {}{}, with a quarter in reserve by {} ({}), "
                    "and it can be joined here",
                    say(setting.current_a, "A"),
                    uneven,
                    SCHOOL_NAMES[school],
                    limit,
                )
            ),
        )
    best = max(joinable, key=lambda item: (item.limits_a[school], -item.bare.layers))
    if best.carries(setting, school):
        return Recommended(
            best, "carries the load, but nothing joinable leaves a quarter in reserve"
        )
    return Recommended(
        best,
        (
            phrase(
                "carries most of what can be joined, {}{}, and still too little: use more "
                "strips or a busbar",
                say(best.limits_a[school], "A"),
                uneven,
            )
        ),
    )


def in_force(
    strip: Strip,
    part: Conductor | None,
    proposal: Candidate,
    setting: Setting,
    joints: Joints,
) -> Candidate:
    """The joint as set; what is not set follows the recommendation."""
    if part is None and strip.width_mm is None and strip.layers is None:
        return proposal
    chosen = part or proposal.part
    layers = strip.layers or (1 if part is not None else proposal.layers)
    strips = strip_count(strip.strips, chosen.form, setting.role, setting.cell, setting.parallel)
    width = strip.width_mm or fitted_width(chosen, setting.role, setting.bed(joints), strips)
    return judged(chosen, width, layers, strips, setting, joints)
