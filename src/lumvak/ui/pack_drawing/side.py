"""What a pack view shows of one side, and where on the view every millimetre lies."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec import Struct, field
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF
from shapely.geometry.base import BaseGeometry

from lumvak.core.arrangement.layout import FACE_A, FACE_B, Layout
from lumvak.core.arrangement.outline import Flaw
from lumvak.core.document.arrangement import Arrangement
from lumvak.core.joints.pieces import Pieces
from lumvak.core.joints.take_off import Lead

Array = NDArray[np.float64]
Index = NDArray[np.intp]
Mask = NDArray[np.bool_]


# What lies over the metal; the rest is kept as it was painted.
OVER = frozenset(("leads", "taps", "taps_done", "taps_wrong", "tap", "route", "flaws"))
# Less than this, in mm or as a share of the strongest, changes no pixel and no colour.
LEAST_SEEN = 1e-3


def _alike(one: Any, two: Any) -> bool:
    if one is two:
        return True
    if isinstance(one, np.ndarray) and isinstance(two, np.ndarray):
        return one.shape == two.shape and np.allclose(one, two, rtol=0.0, atol=LEAST_SEEN)
    if isinstance(one, tuple | frozenset | int):
        return bool(one == two)
    return False


class DrawnPart(Struct, frozen=True):
    """A part in the room: its name and rectangle in mm, and whether it lies over the cells."""

    name: str
    bounds_mm: tuple[float, float, float, float]
    over: bool

    def holds(self, x_mm: float, y_mm: float, rim_mm: float) -> bool:
        """Whether a place takes hold of it; of one over the cells its rim alone does."""
        left, top, right, bottom = self.bounds_mm
        inside = left <= x_mm <= right and top <= y_mm <= bottom
        depth = min(x_mm - left, right - x_mm, y_mm - top, bottom - y_mm)
        return inside and (not self.over or depth <= rim_mm)


# Both sides of a pack as they are drawn.
SIDE_NAMES = ("Side A, facing you", "Side B, turned over")


class SideShown(Struct, frozen=True, eq=False):
    """What a pack view shows of one side.

    ``strength`` (M,) are shares of the strongest piece, 0 to 1, or ``None`` where strips are drawn
    true to width; ``cell_over`` (N,) from -1 to 1 is how far a cell works over its fair share;
    ``gone`` and ``broken_cells`` are broken, ``absent`` pieces not laid, ``marked`` ones stand out,
    ``covered`` cells lie under a cover; ``labels`` (N,) stand on the cells; ``taps`` are the
    terminals of the balance leads, ``taps_done`` those in their place, ``taps_wrong`` those that
    may be wrong, ``tap`` the one in hand and ``route`` its way, (k, 2) in mm.
    """

    layout: Layout
    side: int = FACE_A
    layer: int = 0
    room: BaseGeometry | None = None
    kept_free: tuple[DrawnPart, ...] = ()
    pieces: Pieces | None = None
    width_mm: Array | None = None
    strength: Array | None = None
    cell_over: Array | None = None
    leads: tuple[Lead, ...] = ()
    taps: Index | None = None
    taps_done: frozenset[int] = frozenset()
    taps_wrong: frozenset[int] = frozenset()
    tap: int | None = None
    route: Array | None = None
    flaws: tuple[Flaw, ...] = ()
    barriers: Index = field(default_factory=lambda: np.zeros((0, 2), dtype=np.intp))
    chosen_cells: frozenset[int] = frozenset()
    chosen_piece: int | None = None
    broken_cells: frozenset[int] = frozenset()
    gone: frozenset[int] = frozenset()
    absent: frozenset[int] = frozenset()
    marked: frozenset[int] = frozenset()
    covered: frozenset[int] = frozenset()
    labels: tuple[str, ...] = ()

    def looks_like(self, other: SideShown, but: frozenset[str] = frozenset()) -> bool:
        """Whether another shows the same, however it was made, ``but`` for some fields."""
        return all(
            _alike(getattr(self, name), getattr(other, name))
            for name in self.__struct_fields__
            if name not in but
        )

    @property
    def hidden(self) -> int:
        """The face that is not seen from this side."""
        return FACE_B if self.side == FACE_A else FACE_A

    @property
    def on_layer(self) -> Mask:
        """(N,) which cells lie on the layer that is shown."""
        return np.asarray(self.layout.layer == self.layer)

    @property
    def leads_here(self) -> list[int]:
        """Which main leads leave on the side and layer that is shown."""
        return [
            place
            for place, lead in enumerate(self.leads)
            if self.layout.face[lead.terminal] != self.hidden
            and self.layout.layer[lead.terminal // 2] == self.layer
        ]

    @property
    def pieces_here(self) -> Index:
        """Which pieces are seen from this side, on this layer."""
        if self.pieces is None:
            return np.zeros(0, dtype=np.intp)
        pieces, face = self.pieces, self.layout.face
        layer = self.layout.layer
        one = (face[pieces.a] != self.hidden) & (layer[pieces.a // 2] == self.layer)
        other = (face[pieces.b] != self.hidden) & (layer[pieces.b // 2] == self.layer)
        return np.flatnonzero(one | other)

    def extent(self, around: float) -> QRectF:
        """All that is drawn, in mm, with ``around`` times its larger side left free about it."""
        layout = self.layout
        low_x = float((layout.x_mm - layout.half_mm[:, 0]).min())
        low_y = float((layout.y_mm - layout.half_mm[:, 1]).min())
        high_x = float((layout.x_mm + layout.half_mm[:, 0]).max())
        high_y = float((layout.y_mm + layout.half_mm[:, 1]).max())
        boxes = [item.bounds_mm for item in self.kept_free]
        if self.room is not None and not self.room.is_empty:
            boxes.append(self.room.bounds)
        for left, top, right, bottom in boxes:
            low_x, low_y = min(low_x, left), min(low_y, top)
            high_x, high_y = max(high_x, right), max(high_y, bottom)
        reach = around * max(high_x - low_x, high_y - low_y)
        return QRectF(low_x, low_y, high_x - low_x, high_y - low_y).adjusted(
            -reach, -reach, reach, reach
        )


def kept_free_of(arrangement: Arrangement) -> tuple[DrawnPart, ...]:
    """The parts in the room, as they are drawn."""
    return tuple(
        DrawnPart(
            item.name,
            (item.x_mm, item.y_mm, item.x_mm + item.length_mm, item.y_mm + item.width_mm),
            item.kind == "sensor" or (item.stands == "lid" and item.height_mm is not None),
        )
        for item in arrangement.kept_free
    )


class Spread(Struct, frozen=True):
    """Where millimetres lie on a view; side B is mirrored, as the pack is turned over."""

    bounds: QRectF
    scale: float
    left: float
    top: float
    mirrored: bool

    def to_px(self, x_mm: float, y_mm: float) -> QPointF:
        """Where a place of the pack is drawn."""
        x = self.bounds.right() - x_mm if self.mirrored else x_mm - self.bounds.left()
        return QPointF(
            self.left + x * self.scale, self.top + (y_mm - self.bounds.top()) * self.scale
        )

    def all_px(self, places_mm: Array) -> list[tuple[float, float]]:
        """Where many places, rows of x and y in mm, are drawn."""
        x = places_mm[:, 0]
        x = self.bounds.right() - x if self.mirrored else x - self.bounds.left()
        y = places_mm[:, 1] - self.bounds.top()
        drawn = np.stack([self.left + x * self.scale, self.top + y * self.scale], axis=1)
        return [(a, b) for a, b in drawn.tolist()]

    def to_mm(self, point: QPointF) -> tuple[float, float]:
        """The place of the pack that lies at a point of the view."""
        x = (point.x() - self.left) / self.scale
        y = (point.y() - self.top) / self.scale + self.bounds.top()
        return (self.bounds.right() - x if self.mirrored else x + self.bounds.left()), y

    def lead_px(self, drawn: SideShown, lead: Lead) -> QPointF:
        """Where a main lead leaves, on the view."""
        at = drawn.layout.terminal_mm[lead.terminal]
        if lead.toward is not None:
            at = at + lead.share * (drawn.layout.terminal_mm[lead.toward] - at)
        return self.to_px(float(at[0]), float(at[1]))
