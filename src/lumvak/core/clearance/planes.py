"""The planes in which the ends of the cells lie, and what metal each end shows there.

Pieces of one plane can touch each other; those of different planes have cells, or the cover between
two layers, between them. In a plane u runs to the right and v downwards, in mm.
"""

from __future__ import annotations

from functools import cached_property, lru_cache

import numpy as np
import shapely
from msgspec import Struct
from numpy.typing import NDArray

from lumvak.core.arrangement.layout import FACE_B, FACE_HIGH, FACE_LOW, Layout
from lumvak.core.catalogue.cells import Cell

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Shapes = NDArray[np.object_]
# What an end shows, as shares of the cell (methods 18): the cap of a round cell, how far its
# wrapper folds over the rim in mm, a post of a prismatic cell, the tab of a pouch.
CAP_SHARE, WRAPPER_FOLD_MM = 0.3, 1.0
POST_WIDTH_SHARE, POST_THICK_SHARE = 0.08, 0.3
TAB_WIDTH_SHARE, TAB_THICK_SHARE = 0.17, 0.25
# Conductors side by side at one terminal of a flat cell take no more of its width.
FLAT_END_SHARE = 0.34
# Ends that stand no farther apart than this lie in one plane.
SAME_PLANE_MM = 0.5
CIRCLE_QUARTER = 12


class Planes(Struct, frozen=True, eq=False):
    """Where the 2 N terminals of a pack lie: ``plane`` (2 N,) and ``uv_mm`` (2 N, 2) in it.

    ``face``, ``layer`` and ``axis`` (K,) tell what each plane is: its face, the layer of cells, -1
    where it stands across all of them, and the direction in which its cells lie.
    """

    plane: Index
    uv_mm: Array
    face: Index
    layer: Index
    axis: Index

    def mirrored(self, plane: int) -> bool:
        """Whether u runs to the left for who looks at the ends from outside."""
        face, axis = int(self.face[plane]), int(self.axis[plane])
        return face == FACE_B or (face, axis) in ((FACE_HIGH, 1), (FACE_LOW, 2))

    def __len__(self) -> int:
        """How many planes there are."""
        return len(self.face)


class Ends(Struct, frozen=True, eq=False, dict=True):
    """The metal that the 2 N ends show in their ``planes``, and at which potential.

    ``bare`` is what lies open, at ``level``; ``rim`` is the end of the can under its wrapper, at
    ``rim_level``. Cells without a can of their own potential have no rim: an empty shape.
    """

    planes: Planes
    bare: Shapes
    rim: Shapes
    level: Index
    rim_level: Index

    @cached_property
    def tree(self) -> shapely.STRtree:
        """All that the ends show, to be asked for what is near."""
        return shapely.STRtree(self.whole)

    @cached_property
    def whole(self) -> Shapes:
        """All that each end shows: its rim, or its bare metal where it has none."""
        return np.where(shapely.is_empty(self.rim), self.bare, self.rim)


@lru_cache(maxsize=24)
def planes_of(layout: Layout) -> Planes:
    """The planes of a pack: above and below each layer of standing cells, and at lying ends."""
    x, y, z = layout.terminal_mm.T
    axis = np.repeat(layout.axis, 2)
    layer = np.repeat(layout.layer, 2)
    face = layout.face
    high = float((layout.z_mm + layout.half_mm[:, 2]).max(initial=0.0))
    u = np.choose(axis, [x, y, x])
    v = np.where(axis == 0, y, high - z)
    along = np.choose(axis, [z, x, y])
    key = np.stack([axis, face, np.where(axis == 0, layer, 0)], axis=1)
    plane = np.zeros(len(x), dtype=np.intp)
    faces: list[int] = []
    layers: list[int] = []
    axes: list[int] = []
    for own_axis, own_face, own_layer in sorted({tuple(row) for row in key.tolist()}):
        here = np.flatnonzero((key == (own_axis, own_face, own_layer)).all(axis=1))
        order = here[np.argsort(along[here], kind="stable")]
        step = np.concatenate([[0], (np.diff(along[order]) > SAME_PLANE_MM).cumsum()])
        plane[order] = len(faces) + step
        count = int(step[-1]) + 1
        faces += [own_face] * count
        layers += [own_layer if own_axis == 0 else -1] * count
        axes += [own_axis] * count
    return Planes(
        plane, np.stack([u, v], axis=1), np.array(faces), np.array(layers), np.array(axes)
    )


def end_width_mm(cell: Cell) -> float:
    """Width in mm that conductors side by side on one end of a cell may take (methods 18)."""
    if cell.diameter_mm is not None:
        return cell.diameter_mm - 2.0 * WRAPPER_FOLD_MM
    return FLAT_END_SHARE * cell.footprint_mm[0]


def post_radius_mm(cell: Cell) -> float:
    """Radius in mm of a post of a prismatic cell where its sheet does not say (methods 18)."""
    wide, thick = cell.footprint_mm
    return min(POST_WIDTH_SHARE * wide, POST_THICK_SHARE * thick)


def ends_of(layout: Layout, rim_mm: float = 0.0) -> Ends:
    """What every end shows in its plane; a holder may lie ``rim_mm`` over its edge.

    Where that is more than the wrapper's fold, no rim is left bare.
    """
    cell, planes = layout.cell, planes_of(layout)
    level = layout.level
    count = len(level)
    if cell.diameter_mm is not None:
        positive = np.arange(count) % 2 == 0
        fold = max(WRAPPER_FOLD_MM, rim_mm)
        radius = np.where(positive, CAP_SHARE * cell.diameter_mm, cell.diameter_mm / 2.0 - fold)
        bare = discs(planes.uv_mm, radius)
        if rim_mm >= WRAPPER_FOLD_MM:
            return Ends(planes, bare, _nothing(count), level, level)
        rim = discs(planes.uv_mm, cell.diameter_mm / 2.0)
        # The can is the negative end, and its rim is seen at the positive one.
        return Ends(planes, bare, rim, level, np.where(positive, level - 1, level))
    if cell.format == "prismatic":
        bare = discs(planes.uv_mm, post_radius_mm(cell))
    else:
        wide, thick = cell.footprint_mm
        u, v = planes.uv_mm.T
        # On lying cells the width stands upright.
        lying = np.repeat(layout.axis != 0, 2)
        over, beside = TAB_WIDTH_SHARE * wide, TAB_THICK_SHARE * thick
        half_u, half_v = np.where(lying, beside, over), np.where(lying, over, beside)
        bare = shapely.box(u - half_u, v - half_v, u + half_u, v + half_v)
    return Ends(planes, bare, _nothing(count), level, level)


def discs(middle_mm: Array, radius_mm: Array | float) -> Shapes:
    """Circles as polygons of 4 CIRCLE_QUARTER corners: (n, 2) middles, (n,) radii or one."""
    angle = np.linspace(0.0, -2.0 * np.pi, 4 * CIRCLE_QUARTER, endpoint=False)
    ring = np.stack([np.cos(angle), np.sin(angle)], axis=1)
    corners = middle_mm[:, None, :] + np.asarray(radius_mm)[..., None, None] * ring
    return np.asarray(shapely.polygons(corners), dtype=object)


def _nothing(count: int) -> Shapes:
    """So many empty shapes: no rim is to be seen."""
    return np.array([shapely.Polygon()] * count, dtype=object)
