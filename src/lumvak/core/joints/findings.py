"""What there is to notice about the joints: what they carry, flaws, shares of the cells."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np

from lumvak.core.arrangement.findings import flaw_findings
from lumvak.core.arrangement.layout import Layout
from lumvak.core.document.joints import Joints
from lumvak.core.document.measured import MeasuredCell
from lumvak.core.document.power import AS_SPECIFIED_ID, School
from lumvak.core.figures.finding import Finding
from lumvak.core.joints.candidates import ROLE_NOUNS
from lumvak.core.joints.contacts import screw_of
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.links import JointLinks
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.joints.piece_sections import joining_of
from lumvak.core.joints.pieces import SERIES, terminal_name
from lumvak.core.said import Text, capital, listed, phrase, say

UNEVEN, VERY_UNEVEN = 0.10, 0.25
# More layers than this on one place are no work for a welder.
HIGH_STACK = 6
# So much more is worth the change.
CLEARLY = 1.02


def joint_findings(
    group: JointResult,
    series: JointResult,
    links: JointLinks,
    joined_pack: JoinedPack,
    school: School,
) -> Iterator[Finding]:
    """Whether the joints of each role carry the load, and whether they can be made.

    It is long, for there is a sentence or two for each thing to say.
    """
    for result in (group, series):
        role, chosen = result.setting.role, result.chosen
        link = links.of_role(role)
        if link is None or math.isinf(link.continuous_a):
            continue
        limit, peak = link.continuous_a, link.peak_a
        cure = (
            phrase(
                "Take {}: it carries {}.",
                result.proposal.name,
                say(result.proposal.limits_a[school], "A"),
            )
            if result.proposal.limits_a[school] > limit * CLEARLY
            else "Use more strips side by side, or take the current off in the middle."
        )
        if chosen.part.id.startswith(AS_SPECIFIED_ID):
            yield Finding(
                f"{role}-joint-as-specified",
                "note",
                text=phrase("No conductor at hand carries the {}", ROLE_NOUNS[role])
                if result.automatic
                else phrase("For the {} copper is still to be bought", ROLE_NOUNS[role]),
                why=phrase(
                    "{} does: slotted under nickel for the welder, or bolted.", capital(chosen.name)
                ),
                do="Buy such, have more series connections share it, or lead off in the middle.",
                stage="joints",
                figure=f"joints.{role}.thickness_mm",
            )
        if limit < result.setting.current_a - 1e-9:
            yield Finding(
                f"{role}-joint-limit",
                "stop",
                text=phrase(
                    "{} carry {}, the load draws {}",
                    capital(ROLE_NOUNS[role]),
                    say(limit, "A"),
                    say(result.setting.current_a, "A"),
                ),
                why=phrase("{}, by {}; {}.", chosen.name, school, _where(result, joined_pack)),
                do=cure,
                stage="joints",
                figure=link.limit.key,
            )
        elif peak < result.setting.peak_a - 1e-9:
            yield Finding(
                f"{role}-joint-peak",
                "warn",
                text=phrase(
                    "{} carry {} for {}, the peak is {}",
                    capital(ROLE_NOUNS[role]),
                    say(peak, "A"),
                    say(result.setting.peak_s, "s"),
                    say(result.setting.peak_a, "A"),
                ),
                why=phrase("{}, by {}.", chosen.name, school),
                do=cure,
                stage="joints",
                figure=link.limit.key,
            )
        if chosen.barred:
            yield Finding(
                f"{role}-joint-barred",
                "warn",
                text=phrase("{} {}", chosen.part.said, chosen.barred),
                why="It can be set all the same.",
                do=phrase("Take {}, or change what the welder joins.", result.proposal.name),
                stage="joints",
                figure=f"joints.{role}.thickness_mm",
            )
        if chosen.part.material == "plated steel":
            yield Finding(
                f"{role}-joint-steel",
                "note",
                text=phrase("{} is steel under the plating", chosen.part.said),
                why="It has twice the resistance of nickel and rusts where the plating is cut.",
                do="Measure a strip of known length: pure nickel reads half.",
                stage="joints",
                figure=f"joints.{role}.resistance_ohm",
            )


def _where(result: JointResult, joined_pack: JoinedPack) -> Text:
    """Where a kind of joint is first at its limit, and how warm it gets there."""
    piece = joined_pack.busiest(result.setting.role)
    carried = joined_pack.carried
    if piece is None or carried is None:
        return phrase("they would rise {} over the cells", say(result.chosen.rise_k, "K"))
    rise = float(carried.rise_k[piece])
    warm = phrase("rises {}", say(rise, "K")) if math.isfinite(rise) else "runs away"
    return phrase("the {} is first, and {}", joined_pack.pieces.name(piece), warm)


def live_findings() -> Iterator[Finding]:
    """What holds whenever joints are made."""
    yield Finding(
        "live-terminals",
        "note",
        "A charged cell cannot be switched off",
        "Rings, tools and loose strips short it.",
        "Cover every terminal that is not being worked on; wear eye protection.",
        "joints",
    )


def network_findings(
    joined_pack: JoinedPack,
    network: NetworkFigures | None,
    joints: Joints,
    measured: Sequence[MeasuredCell],
) -> Iterator[Finding]:
    """Flaws of the joints, and what the solved currents show; long, for it lists all of that."""
    yield from flaw_findings(joined_pack.joint_flaws, "joints")
    if network is None:
        yield Finding(
            "not-solved",
            "stop",
            "The currents are not worked out",
            "What is marked on the drawing has to be put right first.",
            "Until then the path counts with evenly shared currents.",
            "joints",
            cure=next((flaw.cure for flaw in joined_pack.joint_flaws if flaw.cure), ""),
        )
    else:
        yield from _uneven(network)
        yield from _hottest(network, joined_pack, joints)
    yield from _layered(joined_pack, joints)
    yield from _narrow_bars(joined_pack, joints)
    yield from _measured(joined_pack.layout, measured)
    if joints.scheme != "groups" and joined_pack.layout.parallel > 1:
        yield Finding(
            "strings",
            "warn",
            "Series strings: one BMS does not see every cell",
            "Tied only at their ends, a weak cell hides behind the others of its level."
            if joints.scheme == "strings-ends"
            else "Thin ties level the strings slowly; a weak cell shows late.",
            "Give each string a BMS of its own, or join in parallel first.",
            "joints",
        )
    method = joining_of(joints, joined_pack.layout.cell)
    if method == "solder" and joined_pack.layout.cell.diameter_mm is not None:
        yield Finding(
            "solder-heat",
            "warn",
            "Soldering on a round cell puts heat into it",
            "The seal and the separator near the end suffer, and it does not show.",
            "Weld if you can; else a hot iron, two seconds, and let each cell cool.",
            "joints",
        )
    if joints.link_a is not None:
        limit = None if network is None else network.link_limit
        if limit is not None:
            yield Finding(
                "links-limit",
                "note",
                text=phrase(
                    "With links of {} the pack may draw {}",
                    say(joints.link_a, "A"),
                    say(limit.number, "A"),
                ),
                why="Links × rating, less what the busiest cell gets more than its share.",
                do="A link that opens leaves the others with more: choose it with room.",
                stage="joints",
                figure=limit.key,
            )


def _layered(joined_pack: JoinedPack, joints: Joints) -> Iterator[Finding]:
    """Series joints that take more layers than the others, and strips that lie in a high stack."""
    pieces, sections = joined_pack.pieces, joined_pack.sections
    set_by_hand = {frozenset((change.a, change.b)) for change in joints.changes}
    own = [
        piece
        for piece in np.flatnonzero((pieces.kind == SERIES) & (pieces.layers > 0)).tolist()
        if frozenset(terminal_name(pieces.layout, int(end[piece])) for end in (pieces.a, pieces.b))
        not in set_by_hand
    ]
    if own:
        levels = sorted({int(pieces.level[piece]) for piece in own})
        named = listed([*levels[:4], *["…"] * (len(levels) > 4)])
        most = int(pieces.layers[own].max())
        yield Finding(
            "joint-layers",
            "note",
            text=phrase(
                "Series connections {} take {} layers"
                if len(levels) > 1
                else "Series connection {} takes {} layers",
                named,
                most,
            ),
            why="Longer or narrower than the others: with what is proposed for those it would be "
            "at its limit.",
            do="The cut list counts them; the drawing shows which.",
            stage="joints",
            figure="joints.series.resistance_ohm",
        )
    stack = np.where(sections.wire, 0.0, sections.layers)
    high = int(stack.argmax()) if len(stack) else 0
    if len(stack) and stack[high] > HIGH_STACK:
        level = int(pieces.level[high])
        wanted = math.ceil(float(stack[high] * sections.strips[high]) / HIGH_STACK)
        yield Finding(
            "joint-stack",
            "warn",
            text=phrase(
                "{} layers lie on one place of series connection {}",
                round(float(stack[high])),
                level,
            ),
            why="So many strips do not lie side by side there, and each weld must go through all.",
            do=phrase(
                "Lay the groups so that {} cells stand beside the next group there, or take a "
                "thicker conductor.",
                wanted,
            ),
            stage="joints",
            figure="joints.series.resistance_ohm",
        )


def _narrow_bars(joined_pack: JoinedPack, joints: Joints) -> Iterator[Finding]:
    """Bars on posts that are narrower than the washer on them."""
    screw = screw_of(joints, joined_pack.layout.cell)
    flat = ~joined_pack.sections.wire
    if screw is None or not flat.any():
        return
    width = float(joined_pack.sections.width_mm[flat].min())
    if width < screw.washer_mm:
        yield Finding(
            "bar-narrow",
            "warn",
            text=phrase(
                "A bar of {} lies under washers of {}", say(width, "mm"), say(screw.washer_mm, "mm")
            ),
            why=phrase(
                "Beside a hole of {} little metal is left to carry, and the washer bears on "
                "its edges.",
                say(screw.hole_mm, "mm"),
            ),
            do=phrase(
                "Take a bar of {} or wider, or a smaller thread.", say(screw.washer_mm, "mm")
            ),
            stage="joints",
            figure="joints.series.thickness_mm",
        )


def _measured(layout: Layout, measured: Sequence[MeasuredCell]) -> Iterator[Finding]:
    names = set(layout.name)
    strange = [item.cell for item in measured if item.cell not in names]
    if strange:
        yield Finding(
            "measured-nowhere",
            "note",
            phrase("{} measured cells have no place in this pack", len(strange)),
            phrase(
                "The first is {}; the pack has {} groups of {}.",
                strange[0],
                layout.series,
                layout.parallel,
            ),
            "Correct the names, or set the count back.",
            "joints",
        )


def _uneven(network: NetworkFigures) -> Iterator[Finding]:
    excess = network.excess
    if excess.number < UNEVEN:
        return
    most, least = network.busiest_cell, network.least_cell
    yield Finding(
        "cells-uneven",
        "warn" if excess.number > VERY_UNEVEN else "note",
        text=phrase(
            "Cells near the main leads give {}, the far ones {}",
            say(most.number, "A"),
            say(least.number, "A"),
        ),
        why=phrase(
            "{} works {} over its equal share; such cells warm and age first.",
            network.busiest_name,
            say(excess.number, "%"),
        ),
        do="Move the main leads, share them between several leads, or lay thicker strip at the "
        "ends.",
        stage="joints",
        figure=excess.key,
    )


def _hottest(network: NetworkFigures, joined_pack: JoinedPack, joints: Joints) -> Iterator[Finding]:
    """The hottest piece where it is over the rise allowed though the school in force lets it."""
    hot = network.hottest
    if hot is None or joined_pack.carried is None or joints.school == "temperature":
        return
    strips = ~joined_pack.sections.wire
    rises = np.where(strips, joined_pack.carried.rise_k, 0.0)
    worst = float(rises.max(initial=0.0))
    if math.isfinite(worst) and worst <= joints.rise_limit_k:
        return
    yield Finding(
        "piece-hot",
        "warn",
        text=phrase(
            "The {} rises {} over the cells",
            joined_pack.pieces.name(int(rises.argmax())),
            say(worst, "K"),
        ),
        why=phrase(
            "By {} it may; by temperature {} would be the limit.",
            joints.school,
            say(joints.rise_limit_k, "K"),
        ),
        do="Double that piece, or set wider strip.",
        stage="joints",
        figure=hot.key,
    )
