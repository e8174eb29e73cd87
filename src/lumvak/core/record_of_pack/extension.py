"""New cells in parallel with an old pack in one case: the links between both, and the room."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from lumvak.core.as_found.limits import one_strip_a
from lumvak.core.evaluation import Evaluation
from lumvak.core.figures.figure import Figure, Rule
from lumvak.core.said import Text

# Key, label, unit, rule and section of docs/methods.md of each figure that is made here.
# fmt: off
END_A = Rule("hand.old.end_link_a", "A link at either end", "A",
             "most that the old groups carry together: the main leads stay on the new cells",
             "methods 29")
BETWEEN_A = Rule("hand.old.between_link_a", "A link between two groups", "A",
                 "most by which the currents of old neighbours differ", "methods 29")
STRIPS = Rule("hand.old.link_strips", "Strips of each link at an end", "",
              "current ÷ what one strip carries over {} mm, rounded up", "methods 29")
# fmt: on
# From block to block a strip is so much longer than a cell is wide, in mm (ours).
APART_MM = 12.0
SIDES = ("length", "width", "height")


class Extension(Struct, frozen=True, eq=False):
    """What it takes to join both: how many links of which strip, and the size of the new cells.

    ``room_mm`` are the sides of the block of new cells.
    """

    links: int
    end: Figure
    between: Figure
    strip: Text
    strips: Figure
    room_mm: tuple[float, float, float]


def extension_of(evaluation: Evaluation) -> Extension | None:
    """The links and the room of the new cells; ``None`` without an old pack that may be joined."""
    beside, course = evaluation.beside, evaluation.beside.course
    if beside.old is None or course is None:
        return None
    old_a = course.one_a
    end = END_A.of(float(old_a.max()))
    apart = np.abs(np.diff(old_a, axis=1))
    between = BETWEEN_A.of(float(apart.max()) if apart.size else 0.0)
    chosen = evaluation.laid_out.series.chosen
    part = chosen.part
    length = evaluation.sized.choice.cell.pitch_mm + APART_MM
    one = one_strip_a(part.material, part.thickness_mm, chosen.width_mm, 1, length)[0]
    strips = STRIPS.of(math.ceil(end.number / one), end, rule=f"{length:.0f}")
    length_mm, width_mm, height_mm = (
        evaluation.figures[f"layout.{side}_mm"].number for side in SIDES
    )
    return Extension(
        evaluation.sized.choice.series + 1,
        end,
        between,
        strip=part.said,
        strips=strips,
        room_mm=(length_mm, width_mm, height_mm),
    )
