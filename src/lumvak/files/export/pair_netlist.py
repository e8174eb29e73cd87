"""Packs in parallel as a netlist for a circuit simulator, until the first of them opens."""

from __future__ import annotations

import numpy as np

from lumvak.core.beside.side import PackSide
from lumvak.core.beside.together import Together
from lumvak.core.document.afterwards.beside import By
from lumvak.files.problem import FileProblem

# A transient is told at so many moments; a curve has so many points at most.
MOMENTS, POINTS = 500, 60


def pair_text(found: Together, by: By = "direct") -> str:
    """Packs joined directly as a transient; raises FileProblem where they are not in parallel.

    The charge of a pack is the voltage of a capacitor; its OCV and its resistance are pieces of
    line over that.
    """
    course = found.course
    if course is None or by not in ("direct", "switch"):
        raise FileProblem("nothing to simulate: the packs are not joined directly")
    until = course.ended[0][1] if course.ended else float(course.seconds[-1])
    lines = [
        f"* {' and '.join(it.name for it in found.sides)} in parallel",
        "* out is the common positive end, 0 the negative; v(soc1) is the charge of the first",
        "* i(vi1) is what the first gives",
    ]
    for number, side in enumerate(found.sides, 1):
        lines += _side(number, side)
    if found.load.amps is not None:
        lines.append(f"ILOAD out 0 DC {found.load.amps:.12g}")
    else:
        # Of two answers the higher: the lower one is beyond what the packs can give.
        least = 0.5 * min(it.emf_v for it in found.sides)
        lines.append(f"BLOAD out 0 I={found.load.watts:.12g}/max(V(out),{least:.9g})")
    lines.append(f".tran {until / MOMENTS:.9g} {until:.9g} 0 {until / MOMENTS:.9g} uic")
    lines += [".end"]
    return "\n".join(lines) + "\n"


def _side(number: int, side: PackSide) -> list[str]:
    """One pack: a capacitor that holds its charge, its OCV, its resistance."""
    soc, emf, end = f"soc{number}", f"emf{number}", f"end{number}"
    grid = np.unique(np.concatenate((np.linspace(0.0, 1.0, POINTS), [side.at])))
    if len(side.charge) <= POINTS:
        grid = side.charge
    rest = np.interp(grid, side.charge, side.rest_v)
    ohm = side.ohm * np.interp(grid, side.charge, side.shape)
    return [
        f"C{soc} {soc} 0 {3600.0 * side.capacity_ah:.12g} IC={side.at:.12g}",
        f"B{soc} {soc} 0 I=I(vi{number})",
        f"B{emf} {emf} 0 V=pwl(V({soc}),{_points(grid, rest)})",
        f"B{end} {end} {emf} V=-I(vi{number})*pwl(V({soc}),{_points(grid, ohm)})",
        f"VI{number} {end} out DC 0",
    ]


def _points(x: np.ndarray, y: np.ndarray) -> str:
    return ",".join(f"{one:.9g},{two:.9g}" for one, two in zip(x, y, strict=True))
