"""Where the main leads leave the case: how far it is, and whether they bend there as they may."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.figures.finding import Finding
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.making.weight import Around, middle_mm
from lumvak.core.said import phrase, say, say_sides

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
BEND_MM = Rule("exit.bend_mm", "A main lead bends over", "mm",
               "four outer diameters; a lead with fine strands less", "methods 40")
EXIT_MM = Rule("exit.{}_mm", "Main lead {} within the case", "mm",
               "along the edges to where the leads leave, the farthest of them × 1.15",
               "methods 40")
# fmt: on

# A lead is laid along the edges and a little longer; it bends over no less than so many diameters.
ROUTE_SLACK, BEND_DIAMETERS = 1.15, 4.0


def exit_figures(
    joined_pack: JoinedPack, around: Around, base: tuple[Figure, ...]
) -> tuple[Figure, ...]:
    """How far each main lead runs within the case, and how sharply it may bend (methods 40).

    Nothing where no part says where they leave; ``base`` made the layout.
    """
    part = next((item for item in around.arrangement.kept_free if item.kind == "leads"), None)
    if part is None:
        return ()
    layout, wire = joined_pack.layout, around.wire
    out = np.array(middle_mm(part, layout, around.arrangement))
    found = []
    for pole, name in (("-", "minus"), ("+", "plus")):
        ends = [lead.terminal for lead in joined_pack.leads if lead.pole == pole]
        far = np.abs(layout.terminal_mm[ends] - out).sum(axis=1).max(initial=0.0) * ROUTE_SLACK
        found.append(EXIT_MM.of(float(far), *base, key=name, label=pole))
    bend = BEND_MM.assumed(BEND_DIAMETERS * wire.outer.number, wire.outer)
    return (*found, bend)


def exit_findings(
    joined_pack: JoinedPack, around: Around, figures: tuple[Figure, ...]
) -> Iterator[Finding]:
    """Leads too short to reach the way out, or with no room to bend and to be held there."""
    if not figures:
        return
    *within, bend = figures
    part = next(item for item in around.arrangement.kept_free if item.kind == "leads")
    longest = max(within, key=lambda figure: figure.number)
    length_mm = 1000.0 * around.wire.length.number
    if longest.number > length_mm:
        yield Finding(
            "exit-far",
            "warn",
            text=phrase(
                "The main leads are {} long, and {} lie within the case",
                say(length_mm, "mm"),
                say(longest.number, "mm"),
            ),
            why="They end before they are out.",
            do="Type a longer lead, let it leave nearer, or move the way out.",
            stage="arrangement",
            figure=longest.key,
        )
    outer = around.wire.outer.number
    long, short = sorted((part.length_mm, part.width_mm), reverse=True)
    count = len(joined_pack.leads)
    if long < bend.number or short < outer:
        yield Finding(
            "exit-tight",
            "warn",
            text=phrase(
                "Where the main leads leave there are {}; one lead is {} thick and bends over {}",
                say_sides((long, short)),
                say(outer, "mm"),
                say(bend.number, "mm"),
            ),
            why="Bent sharper its strands break one by one, and insulation is pressed through.",
            do="Keep more free there, or take a lead with finer strands.",
            stage="arrangement",
            figure=bend.key,
        )
    yield Finding(
        "exit-held",
        "note",
        text=phrase("Hold the {} main leads where they leave the case", count),
        why="What pulls at a lead outside must not reach a joint: a clamp on the insulation, a "
        "smooth grommet in the wall, a little slack inside.",
        do="Clamp them before they are joined, plus and minus apart from each other.",
        stage="arrangement",
        figure=longest.key,
    )
