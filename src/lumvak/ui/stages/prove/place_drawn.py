"""Where the probes of a reading go: on the pack itself, or on the path of the current."""

from __future__ import annotations

import numpy as np

from lumvak.core.arrangement.layout import FACE_A, FACE_B, Index
from lumvak.core.evaluation import Evaluation
from lumvak.core.joints.piece_sections import between_groups
from lumvak.ui.pack_drawing.side import SIDE_NAMES, SideShown


def sides_of_place(evaluation: Evaluation, place: str) -> tuple[tuple[str, SideShown], ...]:
    """Both sides with the cells and pieces of a place marked, with their names.

    ``place`` is spelled as in a reading: ``group:3``, ``joint:2``, ``pack``. Nothing is drawn for
    those that do not lie on the cells.
    """
    name, _, number = place.partition(":")
    joined = evaluation.laid_out.joined_pack
    layout, pieces = joined.layout, joined.pieces
    if name == "group":
        groups = {int(number) - 1}
    elif name == "joint":
        groups = {int(number) - 1, int(number)}
    elif name == "pack":
        groups = {0, layout.series - 1}
    else:
        return ()
    cells = frozenset(np.flatnonzero(np.isin(layout.group, list(groups))).tolist())
    marked: frozenset[int] = frozenset()
    if name == "joint":
        here = between_groups(pieces) & (np.minimum(*_groups_of(evaluation)) == int(number) - 1)
        marked = frozenset(np.flatnonzero(here).tolist())
    return tuple(
        (
            words,
            SideShown(
                layout=layout,
                side=side,
                pieces=pieces,
                width_mm=joined.sections.width_mm * joined.sections.strips,
                leads=joined.leads,
                chosen_cells=cells,
                marked=marked,
            ),
        )
        for side, words in zip((FACE_A, FACE_B), SIDE_NAMES, strict=True)
    )


def _groups_of(evaluation: Evaluation) -> tuple[Index, Index]:
    """The groups at both ends of every piece, (M,) each."""
    joined = evaluation.laid_out.joined_pack
    group = joined.layout.group
    return group[joined.pieces.a // 2], group[joined.pieces.b // 2]
