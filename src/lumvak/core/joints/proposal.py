"""The conductor that is proposed for a joint, the one in force, one as specified, one alone."""

from __future__ import annotations

from typing import NamedTuple

from msgspec.structs import replace

from lumvak.core.catalogue.conductors import Conductor
from lumvak.core.conductors.strip_and_wire import (
    FREE,
    MATERIALS,
    Section,
    free_rise_k,
    strip_ohm,
    strip_rise_k,
    strip_time_constant_s,
)
from lumvak.core.document.joints import Joints, Strip
from lumvak.core.document.power import AS_SPECIFIED_ID
from lumvak.core.figures.figure import AS_SPECIFIED
from lumvak.core.joints.candidates import (
    FORMS,
    SCHOOL_NAMES,
    Allowed,
    Bare,
    Candidate,
    Kind,
    Limited,
    Setting,
    fitted_width,
    judged,
    limited_by,
    loaded,
    strip_count,
)
from lumvak.core.said import Text, digits, phrase, say

# Thicknesses in mm of copper that are tried as specified, a wide sheet, and a bar's width in mm.
THICKNESSES_MM = (0.2, 0.3, 0.5, 0.8, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0)
SHEET_MM, BAR_MM = 500.0, 30.0
# Copper that is slotted under nickel welds like so much of it, in mm.
UNDER_NICKEL_MM = 0.1
# So much over the load a proposed conductor carries for good.
MARGIN = 1.25


class Recommended(NamedTuple):
    """A conductor, and why it is that one."""

    limited: Limited
    why: Text


def asked_of(setting: Setting, over: float) -> Setting:
    """What is asked of the busiest piece, ``over`` times what equal sharing asks."""
    return replace(setting, current_a=over * setting.current_a, peak_a=over * setting.peak_a)


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
    setting = asked_of(load, over)
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


def conductor_as_specified(load: Setting, joints: Joints, over: float) -> Candidate | None:
    """The thinnest copper that carries the load with a quarter to spare, as wide as may lie there.

    ``over`` is how many times more than by even sharing the busiest piece is asked to carry;
    ``None`` where the thickest does not carry it. Round cells get it slotted under nickel, for the
    welder; posts a bar (methods 41).
    """
    setting = asked_of(load, over)
    for thickness in THICKNESSES_MM:
        found = _copper(thickness, load, joints)
        if found.carries(setting, joints.school, MARGIN):
            return found
    return found if found.carries(setting, joints.school) else None


def _copper(thickness_mm: float, setting: Setting, joints: Joints) -> Candidate:
    posts, role = setting.cell.format == "prismatic", setting.role
    wide = min(BAR_MM, setting.widths.widest_mm(role == "series")) if posts else SHEET_MM
    sides = f"{thickness_mm:g} × {wide:g}" if posts else f"{thickness_mm:g}"
    part = Conductor(
        id=f"{AS_SPECIFIED_ID}-{role}",
        name=f"copper {sides} mm, {AS_SPECIFIED}",
        material="copper",
        form="busbar" if posts else "sheet",
        thickness_mm=thickness_mm,
        width_mm=wide,
        join="screw" if posts else "solder" if setting.cell.format == "pouch" else "weld",
        weld_equivalent_mm=min(UNDER_NICKEL_MM, joints.welder_limit_mm),
        price_per_m=0.0,
    )
    strip = joints.series if role == "series" else joints.group
    strips = strip_count(strip.strips, part.form, role, setting.cell, setting.parallel)
    width = fitted_width(part, role, setting.bed(joints), strips)
    return judged(part, width, 1, strips, setting, joints)


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


def over_span(
    part: Conductor, layers: int, span_mm: float, current_a: float, allowed: Allowed
) -> Candidate:
    """One conductor alone between two welds ``span_mm`` apart, whatever pack it is for.

    A busbar is taken as free of the cells (methods 9).
    """
    section = Section(
        MATERIALS[part.material], part.thickness_mm, part.width_mm, layers, span_mm, FREE
    )
    rise_k = strip_rise_k(section, 1.0)
    bare = Bare(
        part,
        part.width_mm,
        layers=layers,
        strips=1,
        section=section,
        ohm=strip_ohm(section),
        strip_k=rise_k,
        own_k=free_rise_k(section, 1.0) if part.form == "busbar" else rise_k,
        tau_s=strip_time_constant_s(section),
        barred="",
        kind=(part.material == "plated steel", layers, FORMS.index(part.form)),
    )
    (limited,) = limited_by((bare,), allowed)
    return loaded(limited, current_a)
