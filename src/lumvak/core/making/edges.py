"""What folded strips pass on their way over the edge of a pack (methods 20, 39)."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from lumvak.core.arrangement.findings import barrier_for
from lumvak.core.arrangement.folds import fold_between
from lumvak.core.arrangement.layout import potential_v
from lumvak.core.figures.finding import TOUCH_SAFE_V, Finding
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.pieces import FOLD
from lumvak.core.said import phrase, say

# A can so near to the line of the strip down the side lies under it.
BESIDE_MM = 3.0


def edge_volts(joined_pack: JoinedPack) -> dict[int, float]:
    """The most volts between each folded strip and a can that it passes on the side of the pack.

    A can is as its negative end. Pieces that pass none of another potential are left out.
    """
    layout, pieces = joined_pack.layout, joined_pack.pieces
    found: dict[int, float] = {}
    for piece in np.flatnonzero(pieces.kind == FOLD).tolist():
        fold = fold_between(layout, int(pieces.a[piece]), int(pieces.b[piece]))
        if fold is None or layout.cell.diameter_mm is None:
            continue
        (x, y, one), (_, _, other) = fold.points_mm[1:3].tolist()
        wide = (
            float(joined_pack.sections.width_mm[piece] * joined_pack.sections.strips[piece]) / 2.0
        )
        apart = np.abs(np.stack([layout.x_mm - x, layout.y_mm - y], axis=1)) - layout.half_mm[:, :2]
        far = np.where(apart.min(axis=1) > wide, np.inf, apart.max(axis=1))
        over = np.minimum(layout.z_mm + layout.half_mm[:, 2], max(one, other)) - np.maximum(
            layout.z_mm - layout.half_mm[:, 2], min(one, other)
        )
        passed = np.flatnonzero((far <= max(wide, BESIDE_MM)) & (over > BESIDE_MM))
        groups = np.abs(layout.group[passed] - int(pieces.level[piece]))
        volts = potential_v(int(groups.max(initial=0)), layout.cell.voltage_full_v)
        if volts:
            found[piece] = volts
    return found


def edge_findings(volts: dict[int, float]) -> Iterator[Finding]:
    """What lies under folded strips on the side of the pack."""
    if not volts:
        return
    worst = max(volts.values())
    count = len(volts)
    yield Finding(
        "fold-side",
        "warn" if worst > TOUCH_SAFE_V else "note",
        text=phrase(
            "{} folded strips pass cans {} apart on the side of the pack"
            if count > 1
            else "{} folded strip passes cans {} apart on the side of the pack",
            count,
            say(worst, "V"),
        ),
        why="Only a wrapper lies between, and the strip rubs on it at the bend.",
        do=phrase("Lay {} over the edge first, wider than the strip.", barrier_for(worst)),
        stage="joints",
        figure="layout.neighbour_v",
    )
