"""Where the main leads leave, and what is wrong with the joints: shorts, loose cells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lumvak.core.arrangement.layout import Layout
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.document.joints import LeadPoint, TakeOff
from lumvak.core.joints.pieces import Pieces, level_of


@dataclass(frozen=True, slots=True)
class Lead:
    """Where one main lead leaves: the pole, a terminal, and how far it lies towards another."""

    pole: str
    terminal: int
    toward: int | None
    share: float


def leads_of(
    layout: Layout, take_off: TakeOff, points: Sequence[LeadPoint]
) -> tuple[tuple[Lead, ...], tuple[Flaw, ...]]:
    """The main leads: as the builder set them for each pole, else by the rule in words."""
    found: list[Lead] = []
    flaws: list[Flaw] = []
    for pole, group, bit in (("-", 0, 1), ("+", layout.series - 1, 0)):
        own = [point for point in points if point.pole == pole]
        first = group * layout.parallel
        for point in own:
            if max(point.cell, point.toward or 1) > layout.parallel:
                flaws.append(
                    Flaw(
                        "lead-nowhere",
                        f"A lead of the {pole} pole leaves at cell {point.cell}, and the group "
                        f"has {layout.parallel}",
                        "Drag it onto a strip of the end group.",
                        float(layout.x_mm[first]),
                        float(layout.y_mm[first]),
                    )
                )
                continue
            toward = None if point.toward is None else 2 * (first + point.toward - 1) + bit
            found.append(Lead(pole, 2 * (first + point.cell - 1) + bit, toward, point.share))
        if not own:
            found.extend(
                Lead(pole, 2 * (first + cell) + bit, None if over is None else 2 * (first + over)
                     + bit, 0.5 if over is not None else 0.0)
                for cell, over in _standard_places(take_off, layout.parallel)
            )  # fmt: skip
    return tuple(found), tuple(flaws)


def _standard_places(take_off: TakeOff, parallel: int) -> list[tuple[int, int | None]]:
    if take_off == "end" or parallel == 1:
        return [(0, None)]
    if take_off == "spread":
        return [(cell, None) for cell in range(parallel)]
    half = parallel // 2
    return [(half, None)] if parallel % 2 else [(half - 1, half)]


def stepped_lead(layout: Layout, lead: Lead, towards: tuple[float, float]) -> Lead | None:
    """A lead moved to the next cell of its end group in a direction.

    ``towards`` is a direction of length 1, right and down. The cell ahead that lies nearest to
    the line is taken; ``None`` where no cell lies ahead by more than a millimetre.
    """
    places = layout.terminal_mm[:, :2]
    here = places[lead.terminal]
    if lead.toward is not None:
        here = here + lead.share * (places[lead.toward] - here)
    group = layout.group[lead.terminal // 2]
    ends = 2 * np.flatnonzero(layout.group == group) + lead.terminal % 2
    across, down = towards
    ahead = (places[ends] - here) @ np.array([across, down])
    beside = np.abs((places[ends] - here) @ np.array([down, across]))
    fitting = ahead > 1.0
    if not fitting.any():
        return None
    cost = np.where(fitting, ahead + 4.0 * beside, np.inf)
    return Lead(lead.pole, int(ends[np.argmin(cost)]), None, 0.0)


def joint_flaws(pieces: Pieces, leads: Sequence[Lead]) -> tuple[Flaw, ...]:
    """Shorts, cells that are left out, groups that are not joined, leads on no strip."""
    layout = pieces.layout
    levels = level_of(layout)
    flaws: list[Flaw] = []
    for piece in np.flatnonzero(levels[pieces.a] != levels[pieces.b]):
        low, high = sorted((int(levels[pieces.a[piece]]), int(levels[pieces.b[piece]])))
        x, y = pieces.middle_mm(int(piece))
        flaws.append(
            Flaw(
                "joint-shorts",
                f"The {pieces.name(int(piece))} joins two potentials, "
                f"{high - low} {'group' if high - low == 1 else 'groups'} apart: a short",
                "Take the piece out, or turn the cell back.",
                x,
                y,
                int(pieces.face[piece]),
            )
        )
    used = np.zeros(2 * len(layout), dtype=bool)
    used[pieces.a] = True
    used[pieces.b] = True
    for lead in leads:
        used[lead.terminal] = True
    for terminal in np.flatnonzero(~used):
        flaws.append(
            Flaw(
                "cell-unconnected",
                f"Nothing joins the {('positive', 'negative')[terminal % 2]} end of "
                f"{layout.name[terminal // 2]}",
                "Give it a strip, or bring back the piece that was taken out.",
                float(layout.terminal_mm[terminal, 0]),
                float(layout.terminal_mm[terminal, 1]),
                int(layout.face[terminal]),
            )
        )
    pairs = set(zip(pieces.a.tolist(), pieces.b.tolist(), strict=True))
    for lead in leads:
        ends = (lead.terminal, lead.terminal if lead.toward is None else lead.toward)
        if ends[0] != ends[1] and (min(ends), max(ends)) not in pairs:
            place = layout.terminal_mm[list(ends), :2].mean(axis=0)
            flaws.append(
                Flaw(
                    "lead-off-strip",
                    f"A lead of the {lead.pole} pole lies on no strip, between "
                    f"{layout.name[ends[0] // 2]} and {layout.name[ends[1] // 2]}",
                    "Drag it onto a strip of the end group.",
                    float(place[0]),
                    float(place[1]),
                    int(layout.face[lead.terminal]),
                )
            )
    return tuple(flaws)
